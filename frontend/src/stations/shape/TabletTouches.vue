<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { ask, type Schemas } from '../../api/client'
import { sayWrong } from '../../state/notice'
import InlineField from '../../ui/InlineField.vue'

/** What a digitising tablet has sent so far; the model is how far apart the two marks lie. */
defineProps<{ unit: string }>()
const apart = defineModel<string>({ required: true })
const emit = defineEmits<{ touched: [places: [number, number][]] }>()
const LOOK_MS = 700
const tablet = shallowRef<Schemas['TabletView'] | null>(null)
const touches = computed(() => tablet.value?.touches ?? [])
watch(touches, (now) => emit('touched', now), { immediate: true })
const box = computed(() => {
  const xs = touches.value.map(([x]) => x)
  const ys = touches.value.map(([, y]) => -y)
  const [left, top] = [Math.min(0, ...xs), Math.min(0, ...ys)]
  return `${left - 10} ${top - 10} ${Math.max(100, ...xs) - left + 20} ${Math.max(0, ...ys) - top + 20}`
})
const path = computed(() =>
  touches.value
    .slice(2)
    .map(([x, y]) => `${x},${-y}`)
    .join(' '),
)
const words = computed(() => {
  const n = touches.value.length
  if (!tablet.value?.listening) return 'This server doesn’t listen for a tablet; start it with make serve TABLET=8379.'
  if (tablet.value.taken) return 'Another workshop is using the tablet just now.'
  if (n < 2)
    return `${tablet.value.connected ? 'The tablet is connected. ' : 'Waiting for the tablet. '}Touch two marks whose distance you know.`
  if (n < 7) return 'Now touch round the outline, and more closely where it bends.'
  return `${n - 2} places touched round the outline.`
})
async function look() {
  tablet.value = await ask('get', '/api/tablet').catch(() => tablet.value)
}
async function again() {
  try {
    tablet.value = await ask('delete', '/api/tablet')
  } catch (e) {
    sayWrong(e)
  }
}
useIntervalFn(look, LOOK_MS, { immediateCallback: true })
</script>

<template>
  <div class="tablet">
    <p role="status">{{ words }}</p>
    <p v-if="tablet?.wrong" class="said look">{{ tablet.wrong }}</p>
    <svg v-if="touches.length" :viewBox="box" aria-hidden="true">
      <polyline :points="path" />
      <path v-for="([x, y], k) in touches.slice(0, 2)" :key="k" :d="`M${x - 8} ${-y} h16 M${x} ${-y - 8} v16`" />
    </svg>
    <label>the two marks lie apart by <InlineField v-model="apart" required /> {{ unit }}</label>
    <v-btn v-if="touches.length" size="small" @click="again">Start again</v-btn>
  </div>
</template>

<style scoped>
.tablet {
  display: grid;
  gap: 8px;
  justify-items: start;
  width: 100%;
}
svg {
  width: 100%;
  height: 150px;
  border-radius: 8px;
  background: var(--table);
}
polyline,
path {
  fill: none;
  stroke: var(--woad);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
path {
  stroke: var(--madder);
}
label {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px;
}
</style>
