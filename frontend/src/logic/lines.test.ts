import { describe, expect, it } from 'vitest'
import { jsonLines } from './lines'

async function told(...parts: string[]): Promise<unknown[]> {
  const bytes = parts.map((p) => new TextEncoder().encode(p))
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      for (const b of bytes) controller.enqueue(b)
      controller.close()
    },
  })
  const found = []
  for await (const line of jsonLines(stream)) found.push(line)
  return found
}

describe('lines of JSON', () => {
  it('are told wherever they are broken off on the way', async () => {
    expect(await told('{"share":0.1}\n{"sha', 're":0.2}\n', '{"share":1}\n')).toEqual([{ share: 0.1 }, { share: 0.2 }, { share: 1 }])
  })
  it('count without a line end too, and none are told of an empty answer', async () => {
    expect(await told('[1]\n[2]')).toEqual([[1], [2]])
    expect(await told()).toEqual([])
  })
})
