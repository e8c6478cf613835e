import type { VueWrapper } from '@vue/test-utils'
import { defineComponent, h, type Component } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { aJob, anEdge, aPanel } from '../../testing/samples'
import { mounted } from '../../testing/mounted'
import { aServer, there } from '../../testing/server'
import type { Schemas } from '../../api/client'
import { useDraftBench } from '../../state/keys'
import { notice } from '../../state/notice'
import HouseView from '../../views/HouseView.vue'
import EaseSlip from './EaseSlip.vue'
import EdgeSlip from './EdgeSlip.vue'
import EdgeTable from './EdgeTable.vue'
import EdgeTag from './EdgeTag.vue'
import FeatureTag from './FeatureTag.vue'
import PanelDrawing from './PanelDrawing.vue'
import PanelLabel from './PanelLabel.vue'
import TableSlip from './TableSlip.vue'
import { useFeature } from './useFeature'

vi.mock('../../api/client', async () => (await import('../../testing/server')).standIn)
beforeEach(() => {
  document.body.innerHTML = ''
  notice.value = null
  there.server = aServer(aJob())
})
const changed = () => vi.waitFor(() => expect(there.server.changes()).toHaveLength(1)).then(() => there.server.changes()[0])

describe('the table of all edges', () => {
  it('ticks edges, all of them, and those finished alike, and sets them at once', async () => {
    const hemmed = aPanel('strip', { rings: [[anEdge('s1', { finish: 'hem' }), anEdge('s2')]] })
    there.server.job = aJob({ panels: [aPanel('lid'), hemmed] })
    const { page } = await mounted(EdgeTable)
    await page.get('[aria-label="strip, s1"]').trigger('click')
    expect(page.text()).toContain('1 ticked')
    await page.get('[aria-label="lid, b"]').trigger('click')
    await page
      .findAll('button')
      .find((b) => b.text() === 'Those finished alike')!
      .trigger('click')
    expect(page.text()).toContain('6 ticked')
    await page.get('[aria-label="lid, a"]').trigger('click')
    await page.get('[aria-label="Allowance of the ticked edges"]').setValue('1.5 cm')
    await page.get('form').trigger('submit')
    expect(await changed()).toEqual({
      kind: 'set_edges',
      edges: ['lid-b', 'lid-c', 'lid-d', 's1', 's2'],
      allowance: '1.5 cm',
    })
  })

  it('shows an edge in several parts once, by its own name', async () => {
    const front = { own_name: 'front' }
    const parts = [
      anEdge('s1', { ...front, name: 'front 2', length: '40.0' }),
      anEdge('s1', { ...front, name: 'front', kind: 'arc', main_part: false }),
      anEdge('s1', { ...front, name: 'front' }),
    ]
    there.server.job = aJob({ panels: [aPanel('strip', { rings: [[...parts, anEdge('s2')]] })] })
    const { page } = await mounted(EdgeTable)
    expect(page.findAll('tbody tr').map((r) => r.findAll('td')[2]!.text())).toEqual(['front', 's2'])
    expect(page.findAll('tbody tr')[0]!.text()).toContain('100.0')
  })
})

const pressed = (page: VueWrapper, text: string) =>
  page
    .findAll('button')
    .find((b) => b.text() === text)!
    .trigger('click')

describe('chosen edges', () => {
  const chosen = async (component: Component, ...edges: string[]) => {
    there.server.job = aJob({ panels: [aPanel('lid')] })
    const shown = await mounted(component)
    for (const e of edges) shown.draft.pickEdge('lid', e, true)
    await shown.page.vm.$nextTick()
    return shown
  }

  it('take an allowance at their tag, as it is typed', async () => {
    const { page } = await chosen(EdgeTag, 'lid-a', 'lid-b')
    expect(page.text()).toContain('2 edges')
    await page.get('[aria-label="Allowance"]').setValue('5/8 in')
    expect(await changed()).toMatchObject({ kind: 'set_edges', edges: ['lid-a', 'lid-b'], allowance: '5/8 in' })
  })

  it('are sent what is typed once, by Enter and by leaving the field', async () => {
    const { page } = await chosen(EdgeTag, 'lid-a')
    const field = page.get('[aria-label="Allowance"]')
    ;(field.element as HTMLInputElement).value = '15'
    await field.trigger('input')
    await field.trigger('keydown', { key: 'Enter' })
    await field.trigger('change')
    await changed()
    await new Promise((later) => setTimeout(later))
    expect(there.server.changes()).toHaveLength(1)
  })

  it('keep what was typed where it is refused, with the reason at the field, until it is taken back', async () => {
    const { page, state, draft } = await chosen(EdgeTag, 'lid-a')
    there.server.refuse('A length over 0 is wanted.')
    const field = page.get<HTMLInputElement>('[aria-label="Allowance"]')
    await field.setValue('twelve')
    await vi.waitFor(() => expect(page.get('[role="alert"]').text()).toBe('A length over 0 is wanted.'))
    await state.load()
    expect(field.element.value).toBe('twelve')
    expect(notice.value).toBeNull()
    await field.trigger('keydown', { key: 'Escape' })
    expect(page.find('[role="alert"]').exists()).toBe(false)
    expect(draft.subject.value).toBe('panel')
  })

  it('say what a house rule would give where an allowance was typed', async () => {
    const { page } = await chosen(EdgeSlip, 'lid-a')
    expect(page.text()).toContain('Typed; by the rule it would be plain 12')
    await pressed(page, 'Back to the rule')
    expect(await changed()).toMatchObject({ edges: ['lid-a'], by_rule: true })
  })
})

describe('what is chosen at Draft', () => {
  it('is left step by step: the edge, the panel, the tool', async () => {
    there.server.job = aJob({ panels: [aPanel('lid'), aPanel('wall')] })
    const { draft } = await mounted(TableSlip)
    expect(draft.subject.value).toBe('table')
    draft.pickEdge('lid', 'lid-b', false)
    expect(draft.subject.value).toBe('edges')
    draft.take('take_in')
    expect(draft.chosen.value).toEqual(['lid-b'])
    const passed = []
    while (draft.leave()) passed.push(draft.subject.value)
    expect(passed).toEqual(['take_in', 'panel', 'table'])
  })

  it('is another panel’s edge alone, but of a join a run over several', async () => {
    there.server.job = aJob({ panels: [aPanel('lid'), aPanel('wall')] })
    const { draft } = await mounted(TableSlip)
    draft.pickEdge('lid', 'lid-a', true)
    draft.pickEdge('wall', 'wall-a', true)
    expect(draft.chosen.value).toEqual(['wall-a'])
    draft.take('join')
    draft.pickEdge('lid', 'lid-a', true)
    expect(draft.chosen.value).toEqual(['wall-a', 'lid-a'])
  })
})

describe('ease', () => {
  it('is typed at its arrow, and all of it kept at once; what the cloth shrinks is told', async () => {
    const canvas = {
      name: 'canvas',
      thickness: '0.8',
      thickness_mm: 0.8,
      warp_shrinks: '3',
      weft_shrinks: '',
      warp_stretches: '',
      weft_stretches: '',
      prewashed: false,
      rules: null,
    }
    const panels = [aPanel('lid', { fit: { clearance: '10.0', girth: '' } })]
    there.server.job = aJob({ panels, house: { rules: {}, cloths: [canvas] } })
    const { page } = await mounted(EaseSlip)
    expect(page.text()).toContain('canvas shrinks 3 % along and 0 % across the grain')
    expect(page.get<HTMLInputElement>('[aria-label="clearance all round"]').element.value).toBe('10.0')
    await page.get('[aria-label="ease on the girth"]').setValue('20')
    expect(await changed()).toEqual({ kind: 'set_fit', panel: 'lid', girth: '20' })
  })

  it('is what the brief asks for, if that is taken', async () => {
    there.server.job = aJob({ panels: [aPanel('lid')], clearance: { text: '10.0', why: 'easy, by the brief' } })
    const { page } = await mounted(EaseSlip)
    expect(page.text()).toContain('easy, by the brief')
    await pressed(page, 'Take it')
    expect(await changed()).toMatchObject({ kind: 'set_fit', clearance: '10.0' })
  })
})

describe('a feature', () => {
  const dart = { kind: 'dart', edge: 'lid-a', lies_at: [50, 0] as [number, number], words: 'dart on a' }
  const values = { along: '50.0', intake: '20.0', length: '60.0', corner: '', cut: '', towards: 'start', lean: '0', bow: '0' }
  const shown = async (component: Component) => {
    there.server.job = aJob({
      panels: [aPanel('lid', { features: [{ id: 'f1', ...dart, values: { ...values, edge: 'lid-a' }, exact: {} }] })],
    })
    const drawn = await mounted(
      defineComponent({
        setup() {
          const draft = useDraftBench()
          return () => h(component, { work: useFeature(draft) })
        },
      }),
    )
    drawn.draft.take('take_in')
    drawn.draft.pickFeature('lid', 'f1')
    await drawn.page.vm.$nextTick()
    return drawn
  }

  it('takes its first figures at its tag, and leaves the others as they are', async () => {
    const { page } = await shown(FeatureTag)
    expect(page.findAll('input').map((i) => i.attributes('aria-label'))).toEqual(['intake', 'length'])
    await page.get('[aria-label="intake"]').setValue('24')
    const change = (await changed()) as Schemas['SetFeature']
    expect(change.feature).toMatchObject({ id: 'f1', kind: 'dart', edge: 'lid-a', intake: '24', length: '60.0', along: '50.0' })
  })
})

describe('house rules', () => {
  it('of a job are shown in its unit, and the one that is typed is kept', async () => {
    there.server.job = aJob({ unit: 'in', house: { rules: { seam: '15/32', hem: '1' }, cloths: [] } })
    const { page } = await mounted(HouseView, { job: 7 })
    await vi.waitFor(() => page.get('[aria-label="plain seam"]'))
    await page.get('[aria-label="plain seam"]').setValue('1/2')
    expect(await changed()).toEqual({ kind: 'set_house_rule', rule: 'seam', length: '1/2', cloth: '' })
    expect(page.html()).not.toMatch(/\bmm\b/)
  })
})

describe('a panel on the table', () => {
  const drawn = (more: object = {}) =>
    mounted(PanelDrawing, {
      panel: aPanel('lid'),
      lie: { x: 0, y: 0, turn: 0, flipped: false },
      px: 1,
      unit: 'mm',
      chosen: [],
      active: true,
      look: 'cut',
      ...more,
    })

  it.each([false, true])('draws no more once its name is written, with no other panel beside it (still: %s)', async (still) => {
    const name = { kind: 'label', points: [[50, 50]], lines: ['lid'], dashed: false }
    const panel = aPanel('lid')
    const { page } = await drawn({ still, panel: { ...panel, draft: { ...panel.draft, marks: [name] } } })
    await page.vm.$nextTick()
    expect(page.get('.label').text()).toBe('lid')
    expect(page.findComponent(PanelLabel).emitted('written')).toHaveLength(1)
  })

  it('is a named group whose edges are named buttons, one of them reached by Tab', async () => {
    const { page } = await drawn({ chosen: ['lid-c'] })
    expect(page.get('[role="group"]').attributes('aria-label')).toBe('Panel lid, cut 1 · canvas')
    const edges = page.findAll('.edge[role="button"]')
    expect(edges.map((e) => e.attributes('tabindex'))).toEqual(['-1', '-1', '0', '-1'])
    expect(edges.map((e) => e.attributes('aria-pressed'))).toEqual(['false', 'false', 'true', 'false'])
    expect(edges[0]!.attributes('aria-label')).toBe('Edge a, 100.0 mm, plain 12.0')
  })

  it('has none of it while panels are moved, nor where another panel is worked on', async () => {
    expect((await drawn({ still: true })).page.findAll('[role="button"]')).toEqual([])
    const { page } = await drawn({ active: false })
    expect(page.findAll('[tabindex="0"]')).toEqual([])
  })

  it('leaves out a tag that the tag of what is chosen would half cover', async () => {
    const edge = (k: number) => anEdge(`lid-${k}`, { start: [0, 200 * k], middle: [150, 200 * k], outward: [0, -1] })
    const panel = aPanel('lid', { rings: [[edge(0), edge(1), edge(2)]], box: [0, 0, 300, 400] })
    const covered = { low: { x: 200, y: 190 }, high: { x: 400, y: 230 } }
    const texts = async (more: object) => (await drawn({ panel, ...more })).page.findAll('.tag text').map((t) => t.text())
    const all = await texts({})
    expect(all).toHaveLength(3)
    expect(await texts({ covered })).toEqual([all[0], all[2]])
  })

  it('gives the edge that is pressed by a key, with Shift one more', async () => {
    const picked = vi.fn()
    const { page } = await drawn({ onPick: picked })
    const [first] = page.findAll('.edge[role="button"]')
    await first!.trigger('keydown', { key: 'Enter' })
    await first!.trigger('keydown', { key: ' ', shiftKey: true })
    expect(picked.mock.calls).toEqual([
      ['lid-a', false],
      ['lid-a', true],
    ])
  })
})
