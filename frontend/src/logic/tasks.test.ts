import { describe, expect, it } from 'vitest'
import { TOOL_PICTURES } from '../bench/toolPictures'
import { CLOTH_PICTURES } from '../bench/clothPictures'
import { FEATURE_FORMS } from './features'
import { FINISHES, CORNERS, MORE_FINISHES } from './finishes'
import { HELP, type HelpPage } from './help'
import { kindsOf, ON_EDGES, SHAPE_TASKS, STILL, TASKS, type Task } from './tasks'

const tasks = Object.keys(TASKS) as Task[]
const every = [...tasks, ...Object.keys(SHAPE_TASKS)]

describe('the tools', () => {
  it('have each a drawing, words, and a page of help', () => {
    for (const task of every) {
      expect(TOOL_PICTURES[task], task).toBeTruthy()
      expect(HELP, task).toHaveProperty(task)
    }
    for (const { title, does } of [...Object.values(TASKS), ...Object.values(SHAPE_TASKS)]) {
      expect(title.length).toBeLessThan(10)
      expect(does.length).toBeGreaterThan(title.length)
    }
  })

  it('put on every kind of feature, each by one of them', () => {
    const kinds = tasks.flatMap((task) => kindsOf(task))
    expect([...kinds].sort()).toEqual(FEATURE_FORMS.map((f) => f.kind).sort())
  })

  it('are about edges, or leave what is pointed at alone, never both', () => {
    expect(ON_EDGES.filter((task) => STILL.includes(task))).toEqual([])
  })
})

describe('small pictures', () => {
  it('are there for every finish, corner and feature', () => {
    const keys = [...FINISHES, ...MORE_FINISHES, ...CORNERS].map((f) => f.key as string)
    for (const key of [...keys, ...FEATURE_FORMS.map((f) => f.kind)]) expect(CLOTH_PICTURES, key).toHaveProperty(key)
  })
})

describe('features', () => {
  it('have on their tag what their form asks for, two figures at most', () => {
    for (const form of FEATURE_FORMS) {
      expect(form.tag.length, form.kind).toBeLessThanOrEqual(2)
      expect(form.tag.filter((key) => !form.fields.some((f) => f.key === key))).toEqual([])
    }
  })
})

describe('pages of help', () => {
  const pages: [string, HelpPage][] = Object.entries(HELP)

  it.each(pages)('%s is short, in whole sentences', (_, page) => {
    expect(page.text.join(' ').length).toBeLessThan(700)
    for (const line of page.text) expect(line).toMatch(/^[A-Z].*\.$/s)
  })

  it.each(pages)('%s is drawn inside its picture', (_, page) => {
    const begun = [...(page.ink ?? []), ...(page.woad ?? []), ...(page.madder ?? [])].flatMap((d) => [
      ...d.matchAll(/M(-?[\d.]+)[ ,](-?[\d.]+)/g),
    ])
    for (const [, x, y] of begun) {
      expect(Number(x)).toBeGreaterThanOrEqual(0)
      expect(Number(x)).toBeLessThanOrEqual(280)
      expect(Number(y)).toBeGreaterThanOrEqual(0)
      expect(Number(y)).toBeLessThanOrEqual(130)
    }
  })
})
