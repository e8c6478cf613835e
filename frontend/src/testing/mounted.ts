import { mount } from '@vue/test-utils'
import { defineComponent, h, provide, type Component } from 'vue'
import { createVuetify } from 'vuetify'
import { useHand } from '../state/hand'
import { useJob, type JobState } from '../state/job'
import { useDraft, type Draft } from '../state/draft'
import { draftKey, jobKey, labelsKey, shapeKey } from '../state/keys'
import { useShape } from '../state/shape'
import { useTable } from '../state/table'

/** A component mounted in an open job, with what Shape and Draft give their own. */
export async function mounted(component: Component, props: Record<string, unknown> = {}) {
  let state!: JobState
  let draft!: Draft
  let bench!: { work: ReturnType<typeof useShape>; table: ReturnType<typeof useTable>; hand: ReturnType<typeof useHand> }
  const page = mount(
    defineComponent({
      setup() {
        state = useJob(7)
        const work = useShape(state)
        const table = useTable(state, work)
        bench = { work, table, hand: useHand(work, () => null) }
        provide(jobKey, state)
        provide(shapeKey, bench)
        draft = useDraft(state)
        provide(draftKey, draft)
        provide(labelsKey, new Map())
        return () => (state.job.value ? h(component, props) : null)
      },
    }),
    { global: { plugins: [createVuetify()], stubs: { RouterLink: { template: '<a><slot /></a>' } } }, attachTo: document.body },
  )
  await state.load()
  await page.vm.$nextTick()
  return { page, state, bench, draft }
}
