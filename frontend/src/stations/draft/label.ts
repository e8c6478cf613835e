import type { Panel, Schemas } from '../../api/client'

/** The change that leaves a panel’s label as it is. */
export function labelOf(p: Panel): Schemas['SetPanel'] {
  const { name, cloth, count, on_fold, grain_deg, way_up, mitre_limit } = p
  const hand = p.hand as Schemas['SetPanel']['hand']
  return { kind: 'set_panel', panel: p.id, hand, name, cloth, count, on_fold, grain_deg, way_up, mitre_limit }
}
