<script setup lang="ts">
import { TASKS, type Task } from '../logic/tasks'

/** The tools of the bench, by what is done with them, side by side in their roll. */
const task = defineModel<Task>({ required: true })
const PICTURES: Record<Task, string> = {
  allow: 'M4 18H28M4 10H28M8 10l-4 8M14 10l-4 8M20 10l-4 8M26 10l-4 8',
  ease: 'M16 8a6 6 0 1 0 .01 0M16 2.5a11.5 11.5 0 1 0 .01 0M16 8V3M21 17l4 3M11 17l-4 3',
  take_in: 'M3 5H11L16 23 21 5H29M16 23V9',
  open: 'M4 4H28V24H4ZM16 9a5 5 0 1 0 .01 0',
  mark: 'M6 22 20 8l4 4L10 26H6ZM17 11l4 4M4 5h6M7 2v6',
  layer: 'M10 4H28V17H10ZM7 8V21H25M4 12V25H22',
  join: 'M3 8H21M3 20H21M8 8v12M14 8v12M21 4h8l-3 4 3 4h-8Z',
  fill: 'M5 7q11-5 22 0 3 7 0 14-11 5-22 0-3-7 0-14ZM12 11q4 3 8 0',
  move: 'M16 3V25M5 14H27M16 3l-3 4M16 3l3 4M16 25l-3-4M16 25l3-4M5 14l4-3M5 14l4 3M27 14l-4-3M27 14l-4 3',
  measure: 'M3 9H29V19H3ZM8 9v4M13 9v6M18 9v4M23 9v6',
}
const tasks = Object.keys(TASKS) as Task[]
</script>

<template>
  <div class="roll" role="group" aria-label="Tools on the bench" @pointerdown.stop @pointerup.stop>
    <button v-for="key in tasks" :key="key" :aria-pressed="task === key" :title="TASKS[key].does" @click="task = key">
      <svg viewBox="0 0 32 28" width="32" height="28" aria-hidden="true"><path :d="PICTURES[key]" /></svg>{{ TASKS[key].title }}
    </button>
  </div>
</template>

<style scoped>
.roll {
  display: flex;
  flex-direction: column;
  gap: 2px;
  padding: 6px 4px;
  overflow: auto;
  background: var(--tape);
  border-radius: 8px;
  box-shadow: inset 0 3px 0 var(--tape-filled);
}
button {
  display: grid;
  justify-items: center;
  flex: 1 0 auto;
  min-width: 70px;
  min-height: 52px;
  max-height: 64px;
  padding: 3px 4px;
  align-content: center;
  font: inherit;
  font-size: 13px;
  font-weight: 600;
  line-height: 1.1;
  color: var(--tape-ink);
  background: none;
  border: 0;
  border-radius: 8px;
  cursor: pointer;
}
button[aria-pressed='true'] {
  background: var(--paper);
  color: var(--ink);
  box-shadow: 0 1px 3px #1f2d2b33;
}
path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.9;
  stroke-linejoin: round;
  stroke-linecap: round;
}
@media (max-width: 900px) {
  .roll {
    flex-direction: row;
  }
}
@media (max-height: 719px) {
  button {
    min-height: 44px;
  }
  svg {
    display: none;
  }
}
</style>
