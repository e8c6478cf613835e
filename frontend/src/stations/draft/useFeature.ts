import { computed, reactive, watch } from 'vue'
import type { Refusal } from '../../api/client'
import { FEATURE_FORMS, settingOf, type FeatureForm } from '../../logic/features'
import { asSet } from '../../logic/lies'
import { ownEdges } from '../../logic/steps'
import type { Draft } from '../../state/draft'
import { useOpenJob } from '../../state/keys'

/** The feature that is chosen, or a new one that is being put on: its form and what is typed into it. */
export function useFeature(draft: Draft) {
  const state = useOpenJob()
  const { panel, chosen, feature, chosenFeature } = draft
  const fresh = reactive<{ form: FeatureForm | null; values: Record<string, string> }>({ form: null, values: {} })
  const form = computed(() => FEATURE_FORMS.find((f) => f.kind === chosenFeature.value?.kind) ?? fresh.form)
  const outline = computed(() => (panel.value ? ownEdges(panel.value.rings.slice(0, 1)) : []))
  const edge = computed(() => chosen.value.find((id) => outline.value.includes(id)))

  function begin(kind: FeatureForm) {
    feature.value = ''
    fresh.form = kind
    fresh.values = { ...kind.start, ...(kind.onEdge && edge.value ? { edge: edge.value } : {}) }
  }
  function close() {
    fresh.form = null
    feature.value = ''
  }
  watch(feature, (id) => {
    if (id) fresh.form = null
  })
  watch([draft.task, () => panel.value?.id], () => (fresh.form = null))
  watch(edge, (id) => {
    if (fresh.form?.onEdge && id) fresh.values.edge = id
  })
  /** A new one put on; what was typed stays where it is refused. */
  async function add(): Promise<Refusal | null> {
    if (!fresh.form || !panel.value) return null
    const before = new Set(panel.value.features.map((f) => f.id))
    const refused = await state.keep(settingOf(fresh.form, panel.value.id, '', fresh.values))
    if (refused) return refused
    fresh.form = null
    feature.value = panel.value?.features.find((f) => !before.has(f.id))?.id ?? ''
    return null
  }
  /** The chosen one with other values. */
  const changing = (values: Record<string, string>) =>
    settingOf(form.value!, panel.value!.id, feature.value, { ...chosenFeature.value?.values, ...values }, chosenFeature.value)
  const set = (values: Record<string, string>) => state.do(changing(values))
  const keep = (values: Record<string, string>) => state.keep(changing(values))

  /** A place that was pointed at, mm in the panel's frame, kept as one on the outline as it was set; false where none is asked. */
  function point(on: { x: number; y: number }): boolean {
    if (!form.value?.placed || !panel.value) return false
    const at = asSet(on, panel.value.as_set)
    const place = { at_0: state.typed(at.x), at_1: state.typed(at.y), from_0: '', from_1: '' }
    if (feature.value) set(place)
    else Object.assign(fresh.values, place)
    return true
  }
  return { form, fresh, edge, begin, close, add, set, keep, point }
}
export type FeatureWork = ReturnType<typeof useFeature>
