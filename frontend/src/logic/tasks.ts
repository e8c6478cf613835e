import type { FeatureForm } from './features'

/** What is done at the bench to panels, each with its tool; Allow is what the hand goes back to. */
export const TASKS = {
  allow: { title: 'Allow', does: 'Allowances, finishes and corners' },
  ease: { title: 'Ease', does: 'From the object to the seam line' },
  take_in: { title: 'Take in', does: 'Darts, pleats, gathers, tapers' },
  open: { title: 'Open', does: 'Openings for what sticks out' },
  mark: { title: 'Mark', does: 'Notches, places, words' },
  layer: { title: 'Layer', does: 'Linings, wadding, foam' },
  join: { title: 'Join', does: 'What is sewn to what' },
  fill: { title: 'Fill', does: 'How a pad fills out' },
  move: { title: 'Move', does: 'How the panels lie on the table' },
  measure: { title: 'Measure', does: 'Between two places' },
} as const
export type Task = keyof typeof TASKS

const KINDS: Partial<Record<Task, readonly FeatureForm['kind'][]>> = {
  take_in: ['dart', 'pleats', 'gather', 'taper'],
  open: ['aperture'],
  mark: ['mark'],
  layer: ['layer'],
}
/** The kinds of features that a task is about. */
export const kindsOf = (task: Task): readonly FeatureForm['kind'][] => KINDS[task] ?? []
/** Tasks that are about a chosen edge, not about what is set on it first. */
export const ON_EDGES: readonly Task[] = ['allow', 'take_in', 'mark', 'join']
/** Tasks during which what is pointed at isn't chosen. */
export const STILL: readonly Task[] = ['move', 'measure']

/** What is done at the bench to a captured piece. */
export const SHAPE_TASKS = {
  true_up: { title: 'True up', does: 'Edges and corners made true' },
  tape: { title: 'Tape', does: 'Held against the tape' },
  fold: { title: 'Fold', does: 'Both halves made alike' },
  paint: { title: 'Paint', does: 'Paint what is piece and what is table' },
  walk: { title: 'Walk', does: 'Walk along the edge' },
  point: { title: 'Point', does: 'Point at the piece in its photo' },
  old: { title: 'Old cloth', does: 'Its allowances taken off' },
  steps: { title: 'Steps', does: 'What was done since it was captured' },
  photo: { title: 'Photo', does: 'The photo and how it is measured' },
  enter: { title: 'Type in', does: 'Measurements instead of a photo' },
} as const
export type ShapeTask = keyof typeof SHAPE_TASKS
