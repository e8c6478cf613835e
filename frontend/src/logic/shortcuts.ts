/** Every key that means something, in one table: what listens to it goes by its name, and Help shows it. */
export interface Shortcut {
  /** As `KeyboardEvent.key` has them, letters small; with `ctrl` the Ctrl or the Command key is held. */
  keys: readonly string[]
  ctrl?: boolean
  /** Whether Shift has to be held, or mustn't be; it may where nothing is said. */
  shift?: boolean
}

const ARROWS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'] as const

export const SHORTCUTS = {
  undo: { keys: ['z'], ctrl: true, shift: false },
  redo: { keys: ['z'], ctrl: true, shift: true },
  figures: { keys: [...'0123456789', '.', ',', '½', '¼', '¾'] },
  station: { keys: ['1', '2', '3', '4', '5'] },
  closer: { keys: ['+', '='] },
  further: { keys: ['-'] },
  showAll: { keys: ['f'] },
  arrows: { keys: ARROWS },
  move: { keys: ['m'] },
  turn: { keys: ['r'] },
  flip: { keys: ['x'] },
  all: { keys: ['a'] },
  remove: { keys: ['Delete', 'Backspace'] },
  take: { keys: ['Enter'] },
  leave: { keys: ['Escape'] },
} as const satisfies Record<string, Shortcut>
export type ShortcutName = keyof typeof SHORTCUTS

/** What Help says of them. */
export const TOLD: readonly (readonly [keys: string, what: string])[] = [
  ['1 2 3 4 5', 'to Brief, Shape, Draft, Check, Make'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo: everything, also after closing the window'],
  ['+ − f', 'closer, further away, show all'],
  ['← →', 'at Draft: from edge to edge (with Shift: choose more); at Shape: from edge to edge, or nudge the chosen corner'],
  ['figures', 'at Draft, with edges chosen: type their allowance, Enter keeps it'],
  ['m', 'at Draft: move panels; then arrows nudge (Shift ten times as far), r turns by a quarter (Shift by 15°), x flips'],
  ['a', 'at Draft: choose all edges of the panel'],
  ['Delete', 'at Shape: remove the chosen corner'],
  ['Backspace, Enter', 'while painting or walking: undo the last one, use it'],
  ['Esc', 'choose nothing; leave painting or walking'],
]

/** The names of what a key means, the most particular first. */
export function namesOf(e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): ShortcutName[] {
  if (e.altKey) return []
  const key = e.key.length === 1 ? e.key.toLowerCase() : e.key
  const held = e.ctrlKey || e.metaKey
  return (Object.keys(SHORTCUTS) as ShortcutName[]).filter((name) => {
    const s: Shortcut = SHORTCUTS[name]
    return s.keys.includes(key) && (s.ctrl ?? false) === held && (s.shift ?? e.shiftKey) === e.shiftKey
  })
}
