<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas, StationKey } from '../api/client'

const props = defineProps<{ stations: Schemas['StationView'][]; current: StationKey; job: number }>()
const filled = computed(() => {
  const firstOpen = props.stations.findIndex((s) => s.share < 1)
  const whole = firstOpen < 0 ? props.stations.length : firstOpen
  return ((whole + (props.stations[whole]?.share ?? 0)) / props.stations.length) * 100
})
</script>

<template>
  <nav class="tape" aria-label="Stations of the job">
    <i class="filled" :style="{ width: `${filled}%` }" aria-hidden="true" />
    <i class="hook" aria-hidden="true" />
    <router-link
      v-for="(s, k) in stations"
      :key="s.key"
      :to="{ name: 'job', params: { id: job, station: s.key } }"
      :aria-current="s.key === current ? 'step' : undefined"
      :class="{ current: s.key === current }"
    >
      <b>{{ k + 1 }} {{ s.title }}</b
      ><span>{{ s.note }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.tape {
  position: relative;
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  height: 46px;
  border-radius: 3px;
  overflow: hidden;
  background: var(--tape);
}
.filled {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--tape-filled);
}
.hook {
  position: absolute;
  inset: 0 auto 0 0;
  width: 6px;
  background: #93a09a;
}
a {
  position: relative;
  display: flex;
  justify-content: space-between;
  align-items: flex-start;
  gap: 8px;
  padding: 5px 14px 0;
  color: var(--tape-ink);
  text-decoration: none;
  border-right: 2px solid var(--tape-ink);
  background: repeating-linear-gradient(
      90deg,
      transparent 0 calc(10% - 1px),
      color-mix(in srgb, var(--tape-ink) 55%, transparent) calc(10% - 1px) 10%
    )
    0 100% / 100% 8px no-repeat;
}
a:last-child {
  border-right: 0;
}
a span {
  font-size: 14px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
a b {
  white-space: nowrap;
}
a.current {
  background: var(--ink);
  color: var(--paper);
  margin: 1px 5px;
  padding: 5px 9px 0;
  border-radius: 4px;
  border-right: 0;
}
a.current span {
  color: var(--tape-filled);
}
@media (prefers-color-scheme: dark) {
  a.current {
    background: #0e1513;
    color: #eef0e6;
  }
  a.current span {
    color: #f0d27a;
  }
}
@media (max-width: 600px) {
  a {
    padding: 5px 4px 0 8px;
  }
  a.current {
    padding: 5px 2px 0 5px;
  }
  a b {
    font-size: 13px;
  }
  a span {
    display: none;
  }
}
</style>
