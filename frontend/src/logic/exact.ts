/** What is shown of something that can be changed: its values as they are typed, and in mm those that this rounds. */
export interface Shown {
  values: Readonly<Record<string, string>>
  exact: Readonly<Record<string, number>>
}

/** A value as it is sent: what was typed, or where nothing was, and it is shown rounded, the exact length. */
export const exactly = (key: string, typed: string, before?: Shown | null): string | number =>
  before && typed === before.values[key] ? (before.exact[key] ?? typed) : typed
