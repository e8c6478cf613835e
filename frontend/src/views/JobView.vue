<script setup lang="ts">
import { useWindowFocus, whenever } from '@vueuse/core'
import { computed, onMounted, provide, ref, watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import type { StationKey } from '../api/client'
import AppMark from '../ui/AppMark.vue'
import GuideStrip from './GuideStrip.vue'
import StationTape from './StationTape.vue'
import BriefStation from '../stations/brief/BriefStation.vue'
import CheckStation from '../stations/check/CheckStation.vue'
import DraftStation from '../stations/draft/DraftStation.vue'
import MakeStation from '../stations/make/MakeStation.vue'
import ShapeStation from '../stations/shape/ShapeStation.vue'
import { jobKey } from '../state/keys'
import { useJob } from '../state/job'
import { sayWrong } from '../state/notice'
import { useShortcuts } from '../state/shortcuts'

const props = defineProps<{ id: number; station: StationKey }>()
const router = useRouter()
const state = useJob(props.id)
provide(jobKey, state)
const { job, busy } = state
const missing = ref(false)

onMounted(async () => {
  try {
    await state.load()
  } catch (e) {
    missing.value = true
    sayWrong(e)
  }
})
whenever(useWindowFocus(), () => job.value && state.refresh())
watchEffect(() => {
  if (job.value) document.title = `${job.value.name} · Ypsicline`
})
const kept = computed(() =>
  job.value ? new Date(job.value.kept_at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }) : '',
)
const nextUnit = computed(() => ({ mm: 'cm', cm: 'in', in: 'mm' }) as const)

function changeUnit() {
  const unit = nextUnit.value[job.value?.unit ?? 'mm']
  return state.do({ kind: 'set_unit', unit })
}

useShortcuts({
  undo: () => state.undo(),
  redo: () => state.redo(),
  station: (e) => {
    const station = job.value?.stations[Number(e.key) - 1]
    return station ? router.push({ name: 'job', params: { id: props.id, station: station.key } }) : false
  },
})
</script>

<template>
  <main v-if="job" class="job">
    <header>
      <AppMark />
      <h1>{{ job.name }}</h1>
      <span class="soft whose">{{ [job.for_whom, `ticket ${job.ticket}`].filter(Boolean).join(' · ') }}</span>
      <span class="gap" />
      <span class="soft small kept" role="status">{{ busy ? 'saving …' : `Saved ${kept}` }}</span>
      <v-btn :disabled="!job.can_undo" :title="job.can_undo ? `Undo: ${job.last_change} (Ctrl Z)` : 'Nothing to undo'" @click="state.undo()"
        >Undo</v-btn
      >
      <v-btn :disabled="!job.can_redo" title="Redo (Ctrl Shift Z)" @click="state.redo()">Redo</v-btn>
      <v-btn :aria-label="`Unit ${job.unit}; change it`" @click="changeUnit">{{ job.unit }}</v-btn>
      <v-btn to="/help">Help</v-btn>
    </header>
    <StationTape :stations="job.stations" :current="station" :job="job.id" />
    <GuideStrip :station="station" />
    <BriefStation v-if="station === 'brief'" />
    <ShapeStation v-else-if="station === 'shape'" />
    <DraftStation v-else-if="station === 'draft'" />
    <CheckStation v-else-if="station === 'check'" />
    <MakeStation v-else />
  </main>
  <main v-else class="job waiting">
    <header>
      <AppMark />
      <h1>{{ missing ? 'This ticket is not on your wall' : 'Fetching the ticket …' }}</h1>
    </header>
    <p v-if="missing"><v-btn to="/">Back to the wall</v-btn></p>
  </main>
</template>

<style scoped>
.job {
  display: grid;
  grid-template-rows: auto auto auto minmax(0, 1fr);
  gap: 8px;
  height: 100vh;
  height: 100dvh;
  min-height: 620px;
  padding: 6px 20px 18px;
}
.waiting {
  grid-template-rows: auto;
  align-content: start;
}
/* whether a guide is there or not, the station has the last row */
.job > :last-child {
  grid-row: 4;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 46px;
}
h1 {
  font-size: 20px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.gap {
  flex: 1;
}
.whose,
.kept {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
@media (max-width: 900px) {
  .job {
    height: auto;
    padding: 6px 10px 18px;
  }
  header {
    flex-wrap: wrap;
    gap: 6px 8px;
  }
  header h1 {
    flex: 1 0 calc(100% - 70px);
  }
  header .gap {
    display: none;
  }
  .whose,
  .kept {
    display: none;
  }
}
</style>
