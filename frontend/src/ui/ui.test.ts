import { mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { createVuetify } from 'vuetify'
import ChoiceRow from './ChoiceRow.vue'
import { asked, rowsIn, withoutRow, type Field } from './fields'
import FormFields from './FormFields.vue'
import RowsTable from './RowsTable.vue'
import ToggleButton from './ToggleButton.vue'

const FIELDS: readonly Field[] = [
  { key: 'corner', title: 'at the corner', kind: 'yes' },
  { key: 'along', title: 'from the start', when: { key: 'corner', is: [''] } },
  { key: 'edge', title: 'on', kind: 'edge' },
  { key: 'share', title: 'share', kind: 'percent' },
  { key: 'name', title: 'name', kind: 'text' },
]
const global = { plugins: [createVuetify()] }

describe('a form', () => {
  it('asks only what the other answers call for', () => {
    expect(asked(FIELDS, { corner: '' }).map((f) => f.key)).toContain('along')
    expect(asked(FIELDS, { corner: 'yes' }).map((f) => f.key)).not.toContain('along')
  })

  it('gives each answer as it is typed, and says when it is', async () => {
    const [set, change] = [vi.fn(), vi.fn()]
    const page = mount(FormFields, {
      props: {
        fields: FIELDS,
        values: { corner: '', along: '150', edge: 'b' },
        lists: { edge: ['a', 'b'].map((value) => ({ value, title: `edge ${value}` })) },
        unit: 'cm',
        onSet: set,
        onChange: change,
      },
      global,
    })
    expect(page.findAll('label').map((l) => l.text())).toEqual(['at the corner', 'from the startcm', 'onedge aedge b', 'share%', 'name'])
    expect((page.get('select').element as HTMLSelectElement).value).toBe('b')
    await page.get('select').setValue('a')
    await page.get('[aria-label="from the start"]').setValue('1 1/2 in')
    await page.get('[type="checkbox"]').setValue(true)
    expect(set.mock.calls).toEqual([
      ['edge', 'a'],
      ['along', '1 1/2 in'],
      ['corner', 'yes'],
    ])
    expect(change.mock.calls).toEqual([['along']])
    expect(page.get('[aria-label="name"]').attributes('inputmode')).toBe('text')
  })
})

describe('choices', () => {
  it('are a named group of which one is pressed', async () => {
    const chosen = vi.fn()
    const page = mount(ChoiceRow, {
      props: { label: 'What the hand does', choices: { edges: 'Edges', move: 'Move' }, modelValue: 'edges', 'onUpdate:modelValue': chosen },
      global,
    })
    expect(page.get('[role="group"]').attributes('aria-label')).toBe('What the hand does')
    expect(page.findAll('button').map((b) => b.attributes('aria-pressed'))).toEqual(['true', 'false'])
    await page.findAll('button')[1]!.trigger('click')
    expect(chosen).toHaveBeenCalledWith('move')
  })

  it('a button that is on says so', () => {
    const page = mount(ToggleButton, { props: { on: true }, slots: { default: 'Paint' }, global })
    expect([page.attributes('aria-pressed'), page.classes('on'), page.text()]).toEqual(['true', true, 'Paint'])
  })
})

describe('a table of rows', () => {
  const COLUMNS: readonly Field[] = [
    { key: 'at', title: 'along', kind: 'length' },
    { key: 'side', title: 'side', choices: ['left', 'right'].map((value) => ({ value, title: value })), usual: 'left' },
  ]
  const filled = () => ({ 'posts.0.at': '10', 'posts.1.at': '20', 'posts.1.side': 'right', 'posts.2.at': '30', other: 'stays' })

  it('offers an empty row after those that are filled, and gives what is typed by its place', async () => {
    const set = vi.fn()
    const page = mount(RowsTable, {
      props: { title: 'post', of: 'posts', columns: COLUMNS, values: filled(), unit: 'cm', onSet: set },
      global,
    })
    expect(page.findAll('th').map((h) => h.text())).toEqual(['along, cm', 'side', ''])
    expect(page.findAll('tbody tr')).toHaveLength(4)
    await page.get('[aria-label="post 4, along"]').setValue('1 1/2 in')
    await page.get('[aria-label="post 1, side"]').setValue('right')
    expect(set.mock.calls).toEqual([
      ['posts.3.at', '1 1/2 in'],
      ['posts.0.side', 'right'],
    ])
  })

  it('closes up where a row is taken out', () => {
    const values: Record<string, string> = filled()
    withoutRow(values, 'posts', 0)
    expect(values).toEqual({ 'posts.0.at': '20', 'posts.0.side': 'right', 'posts.1.at': '30', other: 'stays' })
    expect(rowsIn(values, 'posts')).toBe(2)
    withoutRow(values, 'posts', 1)
    expect(rowsIn(values, 'posts')).toBe(1)
  })
})
