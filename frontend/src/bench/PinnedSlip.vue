<script setup lang="ts">
import { ref } from 'vue'

/** A slip pinned beside the work. Where there is no room beside it, a `sheet` lies over the work's foot and is put down to see it;
 * in a hand it is down at first, and where it `waits` on a tablet too. */
const props = defineProps<{ sheet?: boolean; waits?: boolean }>()
const [IN_A_HAND, ON_A_TABLET] = ['(max-width: 600px)', '(max-width: 900px)']
const down = ref(window.matchMedia?.(props.waits ? ON_A_TABLET : IN_A_HAND).matches ?? false)
defineExpose({ takeUp: () => (down.value = false) })
</script>

<template>
  <aside class="slip" :class="{ sheet, down: sheet && down }">
    <i aria-hidden="true" />
    <button
      v-if="sheet"
      class="grip"
      :aria-expanded="!down"
      :aria-label="down ? 'Take the slip up' : 'Put the slip down'"
      @click="down = !down"
    >
      <svg viewBox="0 0 40 16" width="40" height="16" aria-hidden="true"><path :d="down ? 'M8 11 20 4 32 11' : 'M8 5 20 12 32 5'" /></svg>
    </button>
    <div class="inner"><slot /></div>
  </aside>
</template>

<style scoped>
.slip {
  position: relative;
  background: var(--paper);
  border-radius: 3px 3px 10px 10px;
  box-shadow: 0 1px 4px #1f2d2b26;
  margin-top: 6px;
  min-height: 0;
}
.slip > i {
  position: absolute;
  top: -7px;
  left: calc(50% - 27px);
  width: 54px;
  height: 14px;
  background: var(--rail);
  border-radius: 2px;
}
.inner {
  height: 100%;
  overflow-y: auto;
  padding: 18px 18px 10px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.grip {
  display: none;
}
@media (max-width: 900px) {
  .sheet {
    position: fixed;
    z-index: 5;
    inset: auto 0 0;
    display: grid;
    grid-template-rows: 44px minmax(0, 1fr);
    max-height: 44dvh;
    margin: 0 auto;
    max-width: 640px;
    border-radius: 14px 14px 0 0;
    box-shadow: 0 -2px 12px #1f2d2b40;
  }
  .sheet > i {
    display: none;
  }
  .sheet .inner {
    padding: 0 16px 16px;
    gap: 10px;
  }
  .down .inner {
    display: none;
  }
  .grip {
    display: grid;
    place-items: center;
    width: 100%;
    background: none;
    border: 0;
    cursor: pointer;
  }
  .grip path {
    fill: none;
    stroke: var(--soft-ink);
    stroke-width: 3px;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
}
</style>
