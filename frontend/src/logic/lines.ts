/** What a stream tells, one JSON value a line, as it comes. */
export async function* jsonLines<T>(stream: ReadableStream<Uint8Array>): AsyncGenerator<T> {
  const reader = stream.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader()
  let begun = ''
  for (;;) {
    const { done, value } = await reader.read()
    const lines = (begun + (value ?? '')).split('\n')
    begun = done ? '' : (lines.pop() ?? '')
    for (const line of lines) if (line) yield JSON.parse(line) as T
    if (done) return
  }
}
