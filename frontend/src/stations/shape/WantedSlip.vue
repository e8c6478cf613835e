<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useOpenJob } from '../../state/keys'
import ToggleButton from '../../ui/ToggleButton.vue'
import InlineField from '../../ui/InlineField.vue'

/** What is looked for in the photo, how high it lies, and whether it is a scan. */
const wanted = defineModel<Schemas['WantedIn']>({ required: true })
const { job } = useOpenJob()
const line = computed(() => wanted.value.kind === 'line')
const scan = computed(() => !!wanted.value.dpi)
const KINDS = [
  ['piece', 'a piece', 'M3 7 L17 4 L21 17 L6 20 Z', true],
  ['line', 'a pen line', 'M3 8 Q8 2 14 5 T21 15 Q16 22 9 20 T3 8', false],
  ['marks', 'a ring of marks', 'M12 3h.1M18 6h.1M21 12h.1M18 18h.1M12 21h.1M6 18h.1M3 12h.1M6 6h.1', false],
  ['roll', 'a rolled trace', 'M2 15 Q12 3 22 15M7 20 Q12 14 17 20', false],
] as const
const SIDES = ['inner', 'centre', 'outer'] as const
function set(change: Partial<Schemas['WantedIn']>) {
  wanted.value = { ...wanted.value, ...change }
}
</script>

<template>
  <div class="wanted" role="group" aria-label="What is looked for">
    <div class="kinds" role="group" aria-label="Look for">
      <span class="soft small">look for</span>
      <button
        v-for="[kind, words, d, filled] in KINDS"
        :key="kind"
        type="button"
        class="choice"
        :class="{ on: wanted.kind === kind }"
        :aria-pressed="wanted.kind === kind"
        @click="set({ kind, dpi: kind === 'marks' || kind === 'roll' ? '' : wanted.dpi })"
      >
        <svg viewBox="0 0 24 24" width="26" height="26" aria-hidden="true"><path :d="d" :class="{ filled }" /></svg>{{ words }}
      </button>
    </div>
    <div v-if="line" class="row sides" role="group" aria-label="Which side of the line counts">
      <span class="soft small">which side of it counts</span>
      <ToggleButton v-for="side in SIDES" :key="side" size="small" :on="wanted.side === side" @click="set({ side })">{{
        side === 'centre' ? 'middle' : side
      }}</ToggleButton>
    </div>
    <template v-if="wanted.kind === 'roll'">
      <p class="soft small">Two rows of dots, one for each rim, the first and the last at the start and the finish of one full turn.</p>
      <label class="high"
        >girths by the tape: small
        <InlineField
          aria-label="Small girth"
          :model-value="wanted.small_girth"
          @change="set({ small_girth: ($event.target as HTMLInputElement).value })" />
        large
        <InlineField
          aria-label="Large girth"
          :model-value="wanted.large_girth"
          @change="set({ large_girth: ($event.target as HTMLInputElement).value })"
      /></label>
    </template>
    <label v-if="!scan" class="high"
      >it lies above the sheets by
      <InlineField placeholder="0" :model-value="wanted.height" @change="set({ height: ($event.target as HTMLInputElement).value })" />
      {{ job?.unit }}</label
    >
    <label v-if="wanted.kind === 'piece' || line" class="high"
      >or it was scanned, without sheets, at
      <InlineField
        aria-label="Dots per inch"
        placeholder="–"
        :model-value="wanted.dpi"
        @change="set({ dpi: ($event.target as HTMLInputElement).value })"
      />
      dots per inch</label
    >
  </div>
</template>

<style scoped>
.wanted {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.kinds {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px;
  width: 100%;
}
.kinds > span {
  grid-column: 1 / -1;
}
.kinds > .choice {
  line-height: 1.2;
  text-align: left;
}
.sides > span {
  flex-basis: 100%;
}
.sides {
  gap: 6px;
}
path {
  stroke-linecap: round;
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
}
path.filled {
  fill: currentColor;
  fill-opacity: 0.25;
}
.high {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px;
}
.high input {
  width: 56px;
}
</style>
