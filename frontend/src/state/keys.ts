import { inject, type InjectionKey } from 'vue'
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

export const jobKey: InjectionKey<JobState> = Symbol('open job')
export const draftKey: InjectionKey<Draft> = Symbol('draft')
export const shapeKey: InjectionKey<ShapeBench> = Symbol('shape')

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
