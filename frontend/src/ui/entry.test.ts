import { describe, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { Refusal } from '../api/client'
import { useEntry } from './entry'

/** An entry for a value that the server has, and what it was sent. */
function entry(answer: (text: string) => Promise<Refusal | null>) {
  const value = ref('12.0')
  const sent: string[] = []
  const made = effectScope().run(() =>
    useEntry(
      () => value.value,
      (text) => (sent.push(text), answer(text)),
    ),
  )!
  return { ...made, value, sent }
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

  it('stays where the server is away, and is sent again', async () => {
    let away = true
    const { text, refused, send, sent } = entry(() => Promise.resolve(away ? new Refusal('It can’t be reached.', 0) : null))
    text.value = '15'
    await send()
    expect([text.value, refused.value]).toEqual(['15', 'It can’t be reached.'])
    away = false
    await send()
    expect([sent, refused.value]).toEqual([['15', '15'], ''])
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
