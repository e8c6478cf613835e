import type { Schemas } from '../../api/client'

/** What a finding says, for a list of notes. */
export const noteOf = ({ id, sentence, severity }: Pick<Schemas['FindingView'], 'id' | 'sentence' | 'severity'>) => ({
  key: id,
  sentence,
  severity,
})
