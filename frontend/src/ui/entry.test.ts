import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { Refusal } from '../api/client'
import { notice } from '../state/notice'
import { useEntry } from './entry'

/** An entry for a value that the server has, and what it was sent. */
function entry(answer: (text: string) => Promise<Refusal | null>) {
  const value = ref('12.0')
  const sent: string[] = []
  const scope = effectScope()
  const made = scope.run(() =>
    useEntry(
      () => value.value,
      (text) => (sent.push(text), answer(text)),
    ),
  )!
  return { ...made, value, sent, scope }
}
const fine = () => Promise.resolve(null)

describe('what is typed into a field', () => {
  it('is sent without its blanks, and gives way to what came of it', async () => {
    const { text, send, value, sent } = entry(fine)
    text.value = ' 15 '
    await send()
    value.value = '15.0'
    expect([sent, text.value]).toEqual([['15'], '15.0'])
  })

  it('is not sent where it is what is there', async () => {
    const { text, send, sent } = entry(fine)
    text.value = '12.0'
    await send()
    await send()
    expect(sent).toEqual([])
  })

  it('stays where it is refused, whatever another window does, until it is taken back', async () => {
    const { text, refused, send, takeBack, value } = entry(() => Promise.resolve(new Refusal('No length.', 422)))
    text.value = 'wide'
    await send()
    value.value = '20.0'
    await nextTick()
    expect([text.value, refused.value]).toEqual(['wide', 'No length.'])
    takeBack()
    expect([text.value, refused.value]).toEqual(['20.0', ''])
  })

  describe('where the server is away', () => {
    beforeEach(() => vi.useFakeTimers())
    afterEach(() => vi.useRealTimers())
    const away = new Refusal('It can’t be reached.', 0)

    it('stays, and is sent by itself as soon as it can be', async () => {
      const answers = [away, away, null]
      const { text, refused, send, sent } = entry(() => Promise.resolve(answers.shift() ?? null))
      text.value = '15'
      await send()
      expect([text.value, refused.value]).toEqual(['15', expect.stringContaining('sent by itself')])
      await vi.runAllTimersAsync()
      expect([sent, refused.value]).toEqual([['15', '15', '15'], ''])
    })

    it('is not sent any more once it is taken back', async () => {
      const { text, send, sent, takeBack } = entry(() => Promise.resolve(away))
      text.value = '15'
      await send()
      takeBack()
      await vi.runAllTimersAsync()
      expect(sent).toEqual(['15'])
    })

    it('is said not to have been sent when its field goes from sight', async () => {
      const { text, send, sent, scope } = entry(() => Promise.resolve(away))
      text.value = '15'
      await send()
      scope.stop()
      await vi.runAllTimersAsync()
      expect(sent).toEqual(['15'])
      expect(notice.value).toEqual({ text: expect.stringContaining('“15” wasn’t sent') as string, wrong: true })
    })
  })

  it('is undone where it was refused, once, and nothing is wrong then', async () => {
    const { text, refused, send, undo } = entry(() => Promise.resolve(new Refusal('No length.', 422)))
    expect(undo()).toBe(false)
    text.value = 'wide'
    await send()
    expect([undo(), text.value, refused.value, undo()]).toEqual([true, '12.0', '', false])
    text.value = 'wide'
    await send()
    text.value = 'wider'
    expect(undo()).toBe(false)
    text.value = '12.0'
    expect(refused.value).toBe('')
  })

  it('is kept where more is typed while it is on its way', async () => {
    let answer!: () => void
    const { text, send } = entry(() => new Promise((settle) => (answer = () => settle(null))))
    text.value = '15'
    const first = send()
    text.value = '150'
    answer()
    await first
    expect(text.value).toBe('150')
  })
})
