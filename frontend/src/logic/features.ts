import type { Change, Schemas } from '../api/client'
import type { Field } from '../ui/fields'
import { exactly, type Shown } from './exact'

/** What can be put on a panel, and what is asked for it; the names are those of the feature’s own fields. A pair goes by
 * its two parts (`at_0`, `at_1`). */
type Feature = Schemas['SetFeature']['feature']

export interface FeatureForm {
  kind: Feature['kind']
  title: string
  /** It stands on the chosen edge. */
  onEdge: boolean
  /** It stands at a place of the panel, which can be pointed at. */
  placed: boolean
  start: Record<string, string>
  /** The fields that are set most often: they stand on its tag. */
  tag: readonly string[]
  fields: readonly Field[]
}

const choices = (...values: string[]) => values.map((value) => ({ value, title: value.replaceAll('_', ' ') }))
const PLACE: Field[] = [
  { key: 'at_0', title: 'across' },
  { key: 'at_1', title: 'up' },
]

const inPart = (part: string, fields: Field[]): Field[] => fields.map((f) => ({ ...f, part }))
export const FEATURE_FORMS: readonly FeatureForm[] = [
  {
    kind: 'dart',
    title: 'Dart',
    onEdge: true,
    placed: false,
    start: { towards: 'start' },
    tag: ['intake', 'length'],
    fields: [
      { key: 'corner', title: 'at the corner at its end', kind: 'yes' },
      { key: 'along', title: 'from the edge’s start', when: { key: 'corner', is: [''] } },
      { key: 'intake', title: 'intake' },
      { key: 'length', title: 'length' },
      { key: 'lean', title: 'point leans by' },
      { key: 'bow', title: 'legs bow by' },
      { key: 'towards', title: 'folded to the edge’s', kind: 'choice', choices: choices('start', 'end') },
      { key: 'cut', title: 'cut away', kind: 'yes' },
    ],
  },
  {
    kind: 'pleats',
    title: 'Pleats',
    onEdge: true,
    placed: false,
    start: { count: '2', towards: 'start', depth: '' },
    tag: ['intake', 'count'],
    fields: [
      { key: 'along', title: 'from the edge’s start' },
      { key: 'intake', title: 'intake of all', short: 'intake' },
      { key: 'count', title: 'how many', short: 'in', kind: 'number' },
      { key: 'pitch', title: 'one every' },
      { key: 'depth', title: 'fold lines reach' },
      { key: 'towards', title: 'folded', kind: 'choice', choices: choices('start', 'end', 'box') },
    ],
  },
  {
    kind: 'gather',
    title: 'Gather',
    onEdge: true,
    placed: false,
    start: { ratio: '2' },
    tag: ['ratio'],
    fields: [{ key: 'ratio', title: 'how many times as long', short: 'times', kind: 'number' }],
  },
  {
    kind: 'taper',
    title: 'Taper',
    onEdge: true,
    placed: false,
    start: {},
    tag: ['reach', 'inset'],
    fields: [
      { key: 'reach', title: 'reach along this edge', short: 'reach' },
      { key: 'reach_after', title: 'reach along the next' },
      { key: 'inset', title: 'inset' },
      { key: 'curved', title: 'curved', kind: 'yes' },
    ],
  },
  {
    kind: 'aperture',
    title: 'Aperture',
    onEdge: false,
    placed: true,
    start: { shape: 'round', finish: 'hemmed', name: 'post', clearance: '', slit: '' },
    tag: ['size_0', 'clearance'],
    fields: [
      ...inPart('What passes, and the finish', [
        { key: 'name', title: 'name', kind: 'text' },
        {
          key: 'shape',
          title: 'shape',
          kind: 'choice',
          choices: [...choices('round', 'slot', 'rectangle'), { value: 'outline', title: 'outline of' }],
        },
        { key: 'outline_of', title: 'whose', kind: 'piece', when: { key: 'shape', is: ['outline'] } },
        { key: 'size_0', title: 'what passes, across', short: 'across', when: { key: 'shape', is: ['round', 'slot', 'rectangle'] } },
        { key: 'size_1', title: 'and up', when: { key: 'shape', is: ['slot', 'rectangle'] } },
        { key: 'clearance', title: 'clearance' },
        { key: 'finish', title: 'finish', kind: 'choice', choices: choices('hemmed', 'faced', 'bound', 'eyelet', 'raw') },
        { key: 'depth', title: 'hem', when: { key: 'finish', is: ['hemmed'] } },
      ]),
      ...inPart('Its place: point at it, or type it', [
        ...PLACE,
        { key: 'turn_deg', title: 'turned by °', kind: 'number', when: { key: 'shape', is: ['slot', 'rectangle'] } },
        { key: 'from_0', title: 'or measured from', kind: 'edge' },
        { key: 'away_0', title: 'this far inside it' },
        { key: 'from_1', title: 'and from', kind: 'edge' },
        { key: 'away_1', title: 'this far inside it' },
      ]),
      ...inPart('A slit to the edge', [
        { key: 'slit', title: 'slit to the nearest edge', kind: 'yes' },
        { key: 'slit_deg', title: 'or slit towards °', kind: 'number', when: { key: 'slit', is: ['yes'] } },
        { key: 'stocked', title: 'zips in stock (; between)', kind: 'text', when: { key: 'slit', is: ['yes'] } },
        { key: 'zip_shows', title: 'zip shows', when: { key: 'slit', is: ['yes'] } },
        { key: 'cord_exit', title: 'cord out beside it at', when: { key: 'slit', is: ['yes'] } },
      ]),
    ],
  },
  {
    kind: 'mark',
    title: 'Mark',
    onEdge: false,
    placed: true,
    start: { mark: 'button' },
    tag: ['text'],
    fields: [
      {
        key: 'mark',
        title: 'what',
        kind: 'choice',
        choices: choices('button', 'tie', 'exit', 'bar', 'lock', 'patch', 'hand_sewn', 'centre', 'cross', 'wrong_side', 'top', 'note'),
      },
      { key: 'text', title: 'words', kind: 'text' },
      ...PLACE,
      { key: 'to_0', title: 'runs to, across', when: { key: 'mark', is: ['hand_sewn', 'centre', 'note'] } },
      { key: 'to_1', title: 'and up', when: { key: 'mark', is: ['hand_sewn', 'centre', 'note'] } },
    ],
  },
  {
    kind: 'layer',
    title: 'Layer',
    onEdge: false,
    placed: false,
    start: { role: 'lining', cloth: 'lining' },
    tag: ['grown'],
    fields: [
      { key: 'role', title: 'layer', kind: 'choice', choices: choices('lining', 'wadding', 'foam', 'interlining') },
      { key: 'cloth', title: 'cloth', kind: 'text' },
      { key: 'grown', title: 'grown all round by', short: 'grown' },
      { key: 'allowance', title: 'its allowance' },
      { key: 'cut_larger', title: 'cut larger, then trimmed' },
    ],
  },
]

const PAIR = /^(at|size|to)_([01])$/

/** The change that puts on what a form says, or changes the feature with this id; a field that nothing was typed into keeps
 * what is usual. */
export function settingOf(
  form: FeatureForm,
  panel: string,
  id: string,
  values: Readonly<Record<string, string>>,
  before?: Shown | null,
): Change {
  const feature: Record<string, unknown> = { kind: form.kind, id }
  const asked: Record<string, unknown> = { kind: 'set_feature', panel, feature }
  if (form.onEdge) feature.edge = values.edge
  const inside = [0, 1].filter((k) => values[`from_${k}`]).map((k) => ({ edge: values[`from_${k}`], by: values[`away_${k}`] ?? '' }))
  if (inside.length === 2) asked.inside = inside
  // where it stands is always said: one that is measured from two edges is led there
  if (form.placed) feature.at = ['', '']
  for (const f of form.fields) {
    const typed = values[f.key]?.trim()
    const [, pair, part] = PAIR.exec(f.key) ?? []
    if (!typed || f.kind === 'edge' || f.key.startsWith('away_')) continue
    if (f.kind === 'piece') asked.outline_of = { what: typed.startsWith('p') ? 'panel' : 'piece', id: typed }
    else if (pair) {
      const both = (feature[pair] as (string | number)[] | undefined) ?? ['', '']
      feature[pair] = both.with(Number(part), exactly(f.key, typed, before))
    } else feature[f.key] = f.kind === 'yes' ? typed === 'yes' : exactly(f.key, typed, before)
  }
  return asked as Change
}
