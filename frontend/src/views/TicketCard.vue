<script setup lang="ts">
import { computed } from 'vue'
import { ask, type Ticket } from '../api/client'
import { sayWrong } from '../state/notice'

const props = defineProps<{ ticket: Ticket }>()
const emit = defineEmits<{ changed: [] }>()

/** A job whose state can't be read any more goes back to the one before. */
async function goBack() {
  const { id, unreadable_at } = props.ticket
  try {
    await ask('post', '/api/jobs/{job_id}/undo', { params: { path: { job_id: id } }, headers: { 'X-Revision': String(unreadable_at) } })
  } catch (e) {
    sayWrong(e)
  }
  emit('changed')
}

const frame = computed(() => {
  const [x, y, w, h] = props.ticket.box
  const pad = Math.max(w, h) * 0.04
  return `${x - pad} ${-(y + h) - pad} ${w + 2 * pad} ${h + 2 * pad}`
})
const due = computed(() => {
  if (!props.ticket.due) return 'no date'
  const day = new Date(`${props.ticket.due}T12:00`)
  const days = Math.round((day.getTime() - new Date().setHours(12, 0, 0, 0)) / 864e5)
  if (days === 0) return 'due today'
  if (days > 0 && days < 7) return `due ${day.toLocaleDateString('en', { weekday: 'short' })}`
  return `${days < 0 ? 'was due' : 'due'} ${day.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}`
})
const late = computed(() => !!props.ticket.due && new Date(`${props.ticket.due}T23:59`) < new Date())
</script>

<template>
  <div v-if="ticket.unreadable_at" class="ticket">
    <h2>{{ ticket.name }}</h2>
    <p class="step" role="alert"><i class="stop" aria-hidden="true" />{{ ticket.next_step.sentence }}</p>
    <v-btn v-if="ticket.back_to" class="my-4" @click="goBack">Go back to “{{ ticket.back_to }}”</v-btn>
    <p class="soft small">ticket {{ ticket.ticket }}</p>
  </div>
  <router-link v-else class="ticket" :to="{ name: 'job', params: { id: ticket.id, station: ticket.next_step.station } }">
    <div class="picture">
      <svg v-if="ticket.silhouette" :viewBox="frame" aria-hidden="true">
        <path :d="ticket.silhouette" fill-rule="evenodd" vector-effect="non-scaling-stroke" />
      </svg>
      <svg v-else viewBox="0 0 120 80" class="bare" aria-hidden="true">
        <path d="M20 66 C22 30 48 14 62 16 S104 34 100 66 Z" vector-effect="non-scaling-stroke" />
      </svg>
    </div>
    <h2>
      <span>{{ ticket.name }}</span><span class="due" :class="{ wrong: late }">{{ due }}</span>
    </h2>
    <p class="soft covers">{{ ticket.covers || 'not said yet' }}</p>
    <div class="tape" aria-hidden="true">
      <i :style="{ width: `${ticket.share * 100}%` }" /><b :style="{ left: `${Math.min(ticket.share * 100, 88)}%` }">{{
        ticket.station
      }}</b>
    </div>
    <p class="step"><i :class="ticket.next_step.severity" aria-hidden="true" />{{ ticket.next_step.sentence }}</p>
    <p class="soft small">ticket {{ ticket.ticket }}</p>
  </router-link>
</template>

<style scoped>
.ticket {
  position: relative;
  display: block;
  padding: 20px 18px 12px;
  background: var(--paper);
  color: var(--ink);
  text-decoration: none;
  clip-path: polygon(14px 0, calc(100% - 14px) 0, 100% 14px, 100% 100%, 0 100%, 0 14px);
}
.ticket:focus-visible {
  clip-path: none;
}
.ticket:hover .picture path {
  fill: var(--woad-pale);
}
.picture {
  height: 128px;
  margin: 14px 0 8px;
  display: grid;
  place-items: center;
}
.picture svg {
  max-width: 78%;
  width: 78%;
  height: 128px;
}
.picture path {
  fill: var(--moss-pale);
  stroke: var(--ink);
  stroke-width: 3;
  stroke-linejoin: round;
}
.bare path {
  fill: none;
  stroke: var(--hairline);
  stroke-dasharray: 7 6;
}
h2 {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  font-size: 20px;
  line-height: 1.25;
}
h2 span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.due {
  font-size: 15px;
  font-weight: 600;
  white-space: nowrap;
}
.covers {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tape {
  position: relative;
  height: 26px;
  margin: 12px 0 10px;
  border-radius: 3px;
  background: var(--tape) repeating-linear-gradient(90deg, transparent 0 calc(25% - 1.5px), var(--tape-ink) calc(25% - 1.5px) 25%) 0 100% /
    100% 9px no-repeat;
}
.tape i {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--tape-filled);
  border-radius: 3px;
  opacity: 0.85;
}
.tape b {
  position: absolute;
  top: 2px;
  margin-left: -14px;
  font-size: 14px;
  color: var(--tape-ink);
}
.step {
  font-weight: 600;
  min-height: 21px;
  margin-bottom: 8px;
}
.step i {
  display: inline-block;
  width: 18px;
  height: 5px;
  border-radius: 3px;
  margin-right: 8px;
  vertical-align: 3px;
  background: var(--moss);
}
.step i.look {
  background: var(--weld);
  width: 12px;
}
.step i.stop {
  background: var(--madder);
  height: 9px;
  vertical-align: 1px;
}
</style>
