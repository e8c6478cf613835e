import { describe, expect, it, vi } from 'vitest'
import { reactive } from 'vue'
import { flushPromises, mount } from '@vue/test-utils'
import { Refusal } from '../api/client'
import AskedForm from './AskedForm.vue'
import type { Field } from './fields'
import FormFields from './FormFields.vue'
import { useRefused } from './refused'

const FIELDS: readonly Field[] = [
  { key: 'across', title: 'across' },
  { key: 'hem', title: 'hem', part: 'More' },
]
const two = new Refusal('“1,250 mm” can be read two ways; type 1250 or 1.250.', 422)
const whole = new Refusal('The opening leaves the panel.', 422)

describe('what is refused of a form', () => {
  it('stands at the field whose text it quotes until that is changed, whose part stays open', async () => {
    const values = { across: '20', hem: ' 1,250 mm' }
    const { refused, heard, changed } = useRefused(() => values)
    expect(heard(two)).toBe(false)
    const form = mount(FormFields, { props: { fields: FIELDS, values, refused: refused.value } })
    expect(form.get('[role="alert"]').text()).toContain('two ways')
    expect(form.get('details').attributes('open')).toBeDefined()
    expect(form.get('[aria-label="hem"]').attributes('aria-invalid')).toBe('true')
    changed('across')
    expect(refused.value?.at).toBe('hem')
    changed('hem')
    expect(refused.value).toBeNull()
    await form.setProps({ refused: refused.value })
    expect(form.get('details').attributes('open')).toBeDefined()
  })

  it('comes to a part that is shut, where all is asked in parts and the first is open', async () => {
    const parts = FIELDS.map((f) => ({ ...f, part: f.title }))
    const form = mount(FormFields, { props: { fields: parts, values: {} } })
    const open = () => form.findAll('details').map((d) => d.attributes('open') !== undefined)
    expect(open()).toEqual([true, false])
    await form.setProps({ refused: { why: 'Type it.', at: 'hem' } })
    expect(open()).toEqual([false, true])
  })

  it('stands at the one of two with the same text that was typed into last', () => {
    const values = reactive<Record<string, string>>({ across: '1,250 mm', hem: '' })
    const { refused, heard } = useRefused(() => values)
    values.hem = '1,250 mm'
    heard(two)
    expect(refused.value?.at).toBe('hem')
    values.across = '1,250 mm '
    heard(two)
    expect(refused.value?.at).toBe('across')
  })

  it('is about all of it where it quotes none, until anything is changed', () => {
    const { refused, heard, changed } = useRefused(() => ({ across: '20', hem: '' }))
    heard(whole)
    expect(refused.value).toEqual({ why: 'The opening leaves the panel.', at: '' })
    changed('across')
    expect(refused.value).toBeNull()
    expect(heard(null)).toBe(true)
  })
})

describe('a small form', () => {
  const sent = (refusal: Refusal | null) => vi.fn(() => Promise.resolve(refusal))
  const slots = { default: '<button type="submit">Save</button>' }

  it('says below its fields what is refused until one of them is changed', async () => {
    const form = mount(AskedForm, { props: { values: { at: '1,250 mm' }, send: sent(two) }, slots })
    await form.trigger('submit')
    await flushPromises()
    expect(form.get('[role="alert"]').text()).toContain('two ways')
    expect(form.emitted('taken')).toBeUndefined()
    await form.setProps({ values: { at: '1250' } })
    expect(form.find('[role="alert"]').exists()).toBe(false)
  })

  it('leaves what is refused of one field to that field where its fields say it', async () => {
    const form = mount(AskedForm, { props: { values: { at: '1,250 mm' }, send: sent(two), placed: true }, slots })
    await form.trigger('submit')
    await flushPromises()
    expect(form.find('[role="alert"]').exists()).toBe(false)
    await form.setProps({ send: sent(whole) })
    await form.trigger('submit')
    await flushPromises()
    expect(form.get('[role="alert"]').text()).toBe('The opening leaves the panel.')
  })

  it('tells when it is taken', async () => {
    const form = mount(AskedForm, { props: { values: { at: '20' }, send: sent(null) }, slots })
    await form.trigger('submit')
    await flushPromises()
    expect(form.emitted('taken')).toHaveLength(1)
  })
})
