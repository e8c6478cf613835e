import { inject, type InjectionKey, type Ref } from 'vue'
import type { Bounds } from '../logic/labelPlace'
import type { Draft } from './draft'
import type { Hand } from './hand'
import type { JobState } from './job'
import type { ShapeWork } from './shape'
import type { Table } from './table'

export interface ShapeBench {
  readonly work: ShapeWork
  readonly table: Table
  readonly hand: Hand
}

/** The part of the table that drawings on it show, as an SVG's view box, and how many mm a screen pixel is. */
export interface TablePart {
  readonly viewBox: Readonly<Ref<string>>
  readonly px: Readonly<Ref<number>>
}

export const jobKey: InjectionKey<JobState> = Symbol('open job')
export const draftKey: InjectionKey<Draft> = Symbol('draft')
export const shapeKey: InjectionKey<ShapeBench> = Symbol('shape')
/** Where names stand beside panels that have no room for them, by the panels' names. */
export const labelsKey: InjectionKey<Map<string, Bounds>> = Symbol('labels')
export const tableKey: InjectionKey<TablePart> = Symbol('table')

function given<T>(key: InjectionKey<T>): T {
  const found = inject(key)
  if (!found) throw new Error(`no ${String(key.description)} is provided here`)
  return found
}

/** The job that the window shows. */
export const useOpenJob = () => given(jobKey)
/** What is done and chosen at the Draft station. */
export const useDraftBench = () => given(draftKey)
/** What the Shape station does with the piece on the table. */
export const useShapeBench = () => given(shapeKey)
/** What a drawing on the table shows of it. */
export const useTablePart = () => given(tableKey)
/** The names beside panels, of which none stands on another. */
export const useLabels = () => given(labelsKey)
