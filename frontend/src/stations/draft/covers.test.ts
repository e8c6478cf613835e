import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import type { Asked, Family } from '../../logic/families'
import CheckStation from '../check/CheckStation.vue'
import { aJob, aPanel } from '../../testing/samples'
import { mounted } from '../../testing/mounted'
import { aServer, there } from '../../testing/server'
import { notice } from '../../state/notice'
import CoverSheet from './CoverSheet.vue'
import CoverSlip from './CoverSlip.vue'
import JoinSlip from './JoinSlip.vue'

vi.mock('../../api/client', async () => (await import('../../testing/server')).standIn)
beforeEach(() => {
  document.body.innerHTML = ''
  notice.value = null
  there.server = aServer(aJob())
})
const changed = () => vi.waitFor(() => expect(there.server.changes()).toHaveLength(1)).then(() => there.server.changes()[0])
const named = (page: { findAll: (s: string) => { text: () => string; trigger: (e: string) => Promise<void> }[] }, text: string) =>
  page.findAll('button').find((b) => b.text() === text)!

const asked = (part: Asked['part'], name: string, kind: Asked['kind'], more: Partial<Asked> = {}): Asked => ({
  ...{ part, name, kind, title: name, needed: false, usual: '', choices: [], rows: [] },
  ...more,
})
const FAMILIES: Family[] = [
  {
    family: 'drum',
    title: 'Drum',
    makes: 'two discs and a wall',
    suggested: [{ part: 'choices', name: 'closure', value: 'none', why: 'never opened' }],
    asks: [asked('measures', 'girth', 'length'), asked('choices', 'closure', 'choice', { choices: ['zip', 'none'], usual: 'zip' })],
  },
  {
    family: 'retrofit_aperture',
    title: 'Openings for posts',
    makes: 'templates',
    suggested: [],
    asks: [asked('measures', 'posts', 'rows', { rows: [asked('measures', 'at', 'place'), asked('measures', 'diameter', 'length')] })],
  },
]
const COVER: Schemas['CoverView'] = {
  id: 'k9',
  family: 'drum',
  title: 'Drum',
  values: { 'measures.girth': '1900.0', 'choices.closure': 'none' },
  exact: {},
  outlines: [],
  workings: ['disc: girth 1900.0'],
  notions: [{ kind: 'zip', words: 'zip cut from the length' }],
  results: [
    { id: 'wall', what: 'wall', length: '1924.0' },
    { id: 'zip', what: 'zip, length', length: '760.0' },
  ],
  panels: ['lid'],
  refusal: null,
}

describe('a cover from measures', () => {
  async function sheet(props: Record<string, unknown> = {}) {
    const drafted = vi.fn()
    there.server.next(() => there.server.job)
    const { page } = await mounted(CoverSheet, { ...props, onDrafted: drafted })
    return { page, drafted }
  }
  beforeEach(() => there.server.ask.mockImplementation(aFamiliesServer()))
  function aFamiliesServer() {
    const { calls } = there.server
    return async (method: string, path: string, init: { body?: unknown; headers?: Record<string, string> } = {}) => {
      calls.push({ method, path, body: init.body, headers: init.headers })
      if (path === '/api/jobs/{job_id}/compared') return [{ what: 'joins', now: ['3'], then: ['4'] }]
      return path === '/api/jobs/{job_id}/families' ? FAMILIES : there.server.job
    }
  }

  it('is chosen by its picture, typed in, and drafted', async () => {
    const { page, drafted } = await sheet()
    await vi.waitFor(() => expect(page.findAll('.kind')).toHaveLength(2))
    await page.findAll('.kind')[0]!.trigger('click')
    const girth = page.get('[aria-label="girth"]')
    await girth.trigger('focusin')
    expect(page.findAll('.tape.shown')).toHaveLength(1)
    await girth.setValue('6 ft 2')
    await page.get('form').trigger('submit')
    expect(await changed()).toMatchObject({
      kind: 'draft_cover',
      of: '',
      cover: { family: 'drum', measures: { girth: '6 ft 2' }, choices: { closure: 'none' } },
    })
    expect(page.text()).toContain('never opened')
    await vi.waitFor(() => expect(drafted).toHaveBeenCalled())
  })

  it('has what it was drafted from when it is asked again', async () => {
    const { page } = await sheet({ cover: COVER })
    await vi.waitFor(() => expect((page.get('[aria-label="girth"]').element as HTMLInputElement).value).toBe('1900.0'))
    await page.get('form').trigger('submit')
    expect(await changed()).toMatchObject({ of: 'k9', cover: { choices: { closure: 'none' } } })
  })

  it('is compared with what is drafted, until something else is typed', async () => {
    const { page } = await sheet({ cover: COVER })
    await vi.waitFor(() => expect(page.find('[aria-label="girth"]').exists()).toBe(true))
    await named(page, 'Compare first').trigger('click')
    await vi.waitFor(() => expect(page.get('table').text()).toContain('joins34'))
    expect(there.server.calls.at(-1)?.body).toMatchObject({ kind: 'draft_cover', of: 'k9' })
    await page.get('[aria-label="girth"]').setValue('1800')
    expect(page.find('table').exists()).toBe(false)
    expect(there.server.changes()).toEqual([])
  })

  it('takes rows, more of them and fewer', async () => {
    const { page } = await sheet()
    await vi.waitFor(() => expect(page.findAll('.kind')).toHaveLength(2))
    await page.findAll('.kind')[1]!.trigger('click')
    await page.get('[aria-label="posts 1, at"]').setValue('10; 20')
    await page.get('[aria-label="posts 2, at"]').setValue('30; 40')
    await page.get('[aria-label="posts 2, diameter"]').setValue('60')
    await page.get('[aria-label="Remove posts 1"]').trigger('click')
    await page.get('form').trigger('submit')
    expect(await changed()).toMatchObject({ cover: { measures: { posts: [{ at: ['30', '40'], diameter: '60' }] } } })
  })
})

it('shows a cover’s sums and goods, and lets it go', async () => {
  there.server.job = aJob({ covers: [COVER] })
  const { page, draft } = await mounted(CoverSlip)
  draft.cover.value = 'k9'
  await page.vm.$nextTick()
  expect(page.text()).toContain('zip cut from the length')
  await named(page, 'Let go').trigger('click')
  expect(await changed()).toEqual({ kind: 'let_go_of_cover', cover: 'k9' })
})

it('says which measure a result takes, and takes it', async () => {
  there.server.job = aJob({ covers: [COVER] })
  const { page, draft } = await mounted(CoverSlip)
  draft.cover.value = 'k9'
  await page.vm.$nextTick()
  const change = { kind: 'change_measures' as const, cover: 'k9', lengths: [{ measure: 'measures.girth', length: 1876 }] }
  await page.get('[aria-label="what"]').setValue('zip')
  const length = page.get('[aria-label="is to be"]')
  expect((length.element as HTMLInputElement).value).toBe('760.0')
  await length.setValue('900')
  there.server.next(() => [{ words: 'girth 1876.0 mm instead of 1900.0 mm', change }])
  await page.get('form').trigger('submit')
  await vi.waitFor(() => expect(page.text()).toContain('instead of 1900.0 mm'))
  await page.get('[aria-label^="Take girth"]').trigger('click')
  expect(await changed()).toEqual(change)
})

it('joins the edges of one side to those of the other', async () => {
  there.server.job = aJob({ panels: [aPanel('lid')] })
  const { page, draft } = await mounted(JoinSlip)
  draft.take('join')
  draft.pickEdge('lid', 'lid-a', false)
  await page.vm.$nextTick()
  await named(page, 'This is one side: a').trigger('click')
  expect(page.text()).toContain('One side: a')
  expect(page.get('button[type="submit"]').attributes('disabled')).toBeDefined()
})

describe('what is found', () => {
  const found = (id: string, severity: Schemas['CheckedView']['severity'], reason = '') => ({
    ...{ id, severity, reason, sentence: `${id} is so`, join: '', place: { panel: 'lid', edge: null, point: null } },
  })

  it('is open until it is lived with for a reason', async () => {
    there.server.job = aJob({ checks: [found('gap', 'stop'), found('note', 'fine')] })
    const { page } = await mounted(CheckStation)
    expect(page.text()).not.toContain('Ready to cut')
    await page.get('[aria-label="Why you live with: gap is so"]').setValue('a funnel')
    await page.get('form').trigger('submit')
    expect(await changed()).toEqual({ kind: 'accept_finding', finding: 'gap', reason: 'a funnel' })
  })

  it('is mended by what the server has tried', async () => {
    there.server.job = aJob({ checks: [found('gap', 'stop')] })
    const change = { kind: 'set_join' as const, join: 'j1', seam: null, meant: 'eased' as const, fullness: null }
    there.server.next(() => there.server.job)
    there.server.next(() => [{ finding: 'gap', words: 'Ease 1.8 mm in', then: ['1.8 mm is eased in.'], change }])
    const { page } = await mounted(CheckStation)
    await vi.waitFor(() => expect(page.text()).toContain('Then: 1.8 mm is eased in.'))
    await named(page, 'Ease 1.8 mm in').trigger('click')
    expect(await changed()).toEqual(change)
  })

  it('leaves a job ready to cut once nothing is open', async () => {
    there.server.job = aJob({ checks: [found('gap', 'stop', 'a funnel')] })
    const { page } = await mounted(CheckStation)
    expect(page.text()).toContain('Ready to cut')
    expect(page.text()).toContain('a funnel')
    await named(page, 'Open it again').trigger('click')
    expect(await changed()).toEqual({ kind: 'accept_finding', finding: 'gap', reason: '' })
  })
})

describe('a join', () => {
  const side = (panels: string, length: number, notches: [number, boolean][]) => ({ panels, length, stops: [], notches })
  const JOIN: Schemas['JoinView'] = {
    ...{ id: 'join1', letter: 'A', words: 'join A, lid to wall: 400.0 and 401.8', verdict: 'eased', seam: 'plain', meant: 'eased' },
    ...{ fullness: '1', first: [{ panel: 'lid', edge: 'lid-a' }], second: [{ panel: 'wall', edge: 'wall-a' }] },
    walk: {
      sides: [side('lid', 400, [[200, false]]), side('wall', 401.8, [[200.2, false]])],
      ...{ apart: ['', '+ 1.6'], on_top: 'Sew it with “wall” beneath.' },
    },
  }
  const opened = async () => {
    there.server.job = aJob({ joins: [JOIN] })
    const { page } = await mounted(JoinSlip)
    await page.get('button.words').trigger('click')
    return page
  }

  it('shows both sides laid against each other and which lies on top', async () => {
    const page = await opened()
    expect(page.get('[aria-label="lid laid against wall"]').findAll('.tie')).toHaveLength(3)
    expect(page.findAll('.apart').map((t) => t.text())).toEqual(['+ 1.6'])
    expect(page.text()).toContain('Sew it with “wall” beneath.')
  })

  it('is notched on both sides, and left as it is in everything else', async () => {
    const page = await opened()
    await page.get('[aria-label="matched notches"]').setValue('4')
    expect(await changed()).toEqual({ kind: 'set_join', join: 'join1', seam: null, meant: null, fullness: null, parts: 4 })
  })
})
