/** The usual ways to finish an edge, as they are pictured. */
export const FINISHES = [
  { key: 'plain', title: 'plain' },
  { key: 'hem', title: 'hem' },
  { key: 'double_hem', title: 'double hem' },
  { key: 'casing', title: 'casing' },
  { key: 'bound', title: 'bound' },
  { key: 'faced', title: 'faced' },
] as const
export const MORE_FINISHES = [
  { key: 'piped', title: 'piped' },
  { key: 'felled_wide', title: 'felled, wide' },
  { key: 'felled_narrow', title: 'felled, narrow' },
  { key: 'french', title: 'French' },
  { key: 'lapped_over', title: 'lapped over' },
  { key: 'lapped_under', title: 'lapped under' },
  { key: 'zip', title: 'zip' },
  { key: 'raw', title: 'cut raw' },
  { key: 'fold', title: 'on the fold' },
] as const
/** The corners at the end of an edge. */
export const CORNERS = [
  { key: 'by_rule', title: 'by rule' },
  { key: 'mitre', title: 'mitre' },
  { key: 'square', title: 'square' },
  { key: 'bevel', title: 'cut off' },
  { key: 'mirror', title: 'turned' },
  { key: 'hem_mitre', title: 'hem mitre' },
] as const
