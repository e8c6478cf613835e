import { beforeEach, describe, expect, it, vi } from 'vitest'
import { aJob, anEdge, aPanel } from '../../testing/samples'
import { mounted } from '../../testing/mounted'
import { aServer, there } from '../../testing/server'
import { notice } from '../../state/notice'
import EdgeSlip from './EdgeSlip.vue'
import EdgeTable from './EdgeTable.vue'
import FitSlip from './FitSlip.vue'
import HouseSlip from './HouseSlip.vue'
import PanelDrawing from './PanelDrawing.vue'

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
    const parts = [anEdge('s1', { name: 'front 2', own_name: 'front', length: '40.0' }), anEdge('s1', { name: 'front', own_name: 'front' })]
    there.server.job = aJob({ panels: [aPanel('strip', { rings: [[...parts, anEdge('s2')]] })] })
    const { page } = await mounted(EdgeTable)
    expect(page.findAll('tbody tr').map((r) => r.findAll('td')[2]!.text())).toEqual(['front', 's2'])
    expect(page.findAll('tbody tr')[0]!.text()).toContain('100.0')
  })
})

describe('the slip of an edge', () => {
  it('sets the allowance as it is typed, and goes back to the rule', async () => {
    const { page } = await mounted(EdgeSlip, { panel: aPanel('lid'), chosen: ['lid-a', 'lid-b'] })
    expect(page.text()).toContain('2 edges')
    const field = page.findAll('input').find((i) => i.element.value === '12.0')!
    await field.setValue('5/8 in')
    await field.trigger('change')
    expect(await changed()).toMatchObject({ kind: 'set_edges', edges: ['lid-a', 'lid-b'], allowance: '5/8 in' })
  })

  it('says what a house rule would give where an allowance was typed', async () => {
    const { page } = await mounted(EdgeSlip, { panel: aPanel('lid'), chosen: ['lid-a'] })
    expect(page.text()).toContain('typed; by rule it would be plain 12')
    await page
      .findAll('button')
      .find((b) => b.text() === 'Back to the rule')!
      .trigger('click')
    expect(await changed()).toMatchObject({ edges: ['lid-a'], by_rule: true })
  })
})

describe('the slip of ease', () => {
  it('keeps all of it at once, and tells what the cloth shrinks', async () => {
    const canvas = {
      name: 'canvas',
      thickness: '0.8',
      warp_shrinks: '3',
      weft_shrinks: '',
      warp_stretches: '',
      weft_stretches: '',
      prewashed: false,
      rules: null,
    }
    there.server.job = aJob({ house: { rules: {}, cloths: [canvas] } })
    const { page } = await mounted(FitSlip, { panel: aPanel('lid', { fit: { clearance: '10.0', girth: '' } }) })
    expect(page.text()).toContain('canvas shrinks by 3 % along and 0 % across the grain')
    const [clearance, girth] = page.findAll('input')
    expect(clearance!.element.value).toBe('10.0')
    await girth!.setValue('20')
    expect(await changed()).toMatchObject({ kind: 'set_fit', panel: 'lid', clearance: '10.0', girth: '20' })
  })
})

describe('the slip of the house', () => {
  it('shows rules in the job’s unit and keeps the one that is typed', async () => {
    there.server.job = aJob({ unit: 'in', house: { rules: { seam: '15/32', hem: '1' }, cloths: [] } })
    const { page } = await mounted(HouseSlip)
    const seam = page.findAll('input').find((i) => i.element.value === '15/32')!
    await seam.setValue('1/2')
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

  it('is a named group whose edges are named buttons, one of them reached by Tab', async () => {
    const { page } = await drawn({ chosen: ['lid-c'] })
    expect(page.get('[role="group"]').attributes('aria-label')).toBe('Panel lid, cut 1 · canvas')
    const edges = page.findAll('[role="button"]')
    expect(edges.map((e) => e.attributes('tabindex'))).toEqual(['-1', '-1', '0', '-1'])
    expect(edges.map((e) => e.attributes('aria-pressed'))).toEqual(['false', 'false', 'true', 'false'])
    expect(edges[0]!.attributes('aria-label')).toBe('Edge a, 100.0 mm, plain 12.0')
  })

  it('has none of it while panels are moved, nor where another panel is worked on', async () => {
    expect((await drawn({ still: true })).page.findAll('[role="button"]')).toEqual([])
    const { page } = await drawn({ active: false })
    expect(page.findAll('[tabindex="0"]')).toEqual([])
  })

  it('gives the edge that is pressed by a key, with Shift one more', async () => {
    const picked = vi.fn()
    const { page } = await drawn({ onPick: picked })
    const [first] = page.findAll('[role="button"]')
    await first!.trigger('keydown', { key: 'Enter' })
    await first!.trigger('keydown', { key: ' ', shiftKey: true })
    expect(picked.mock.calls).toEqual([
      ['lid-a', false],
      ['lid-a', true],
    ])
  })
})
