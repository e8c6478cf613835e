<script setup lang="ts">
import { useElementSize, watchDebounced } from '@vueuse/core'
import { computed, onUnmounted, ref } from 'vue'
import { boxAbout, type Bounds } from '../logic/labelPlace'
import { placedTag } from '../logic/tags'

/**
 * The tag of what is chosen, hung at its place: what is set most often is typed there. `at` and the unit vector `away` are
 * pixels of the table's window, whose size is `room`; it hangs `off` px from the place, stays in the window and keeps clear of
 * the `others`. `covers` gives the pixels that it lies over.
 */
const props = defineProps<{
  at: { x: number; y: number }
  away: { x: number; y: number }
  room: { width: number; height: number }
  off: number
  label: string
  others?: readonly Bounds[]
}>()
const emit = defineEmits<{ covers: [box: Bounds | null] }>()
const tag = ref<HTMLElement | null>(null)
const own = useElementSize(tag, { width: 220, height: 56 }, { box: 'border-box' })
const middle = computed(() =>
  placedTag(props.at, props.away, props.off, { width: own.width.value, height: own.height.value }, props.room, props.others),
)
const covered = computed(() => boxAbout(middle.value, { width: own.width.value, height: own.height.value }, 2))
emit('covers', covered.value)
// once it hangs still: what it covers may take long to draw anew
watchDebounced(covered, (box) => emit('covers', box), { debounce: 100 })
onUnmounted(() => emit('covers', null))
</script>

<template>
  <svg class="string" aria-hidden="true"><line :x1="at.x" :y1="at.y" :x2="middle.x" :y2="middle.y" /></svg>
  <div
    ref="tag"
    class="place-tag"
    role="group"
    :aria-label="label"
    :style="{ translate: `calc(${middle.x}px - 50%) calc(${middle.y}px - 50%)` }"
    @pointerdown.stop
    @pointerup.stop
  >
    <slot />
  </div>
</template>

<style scoped>
.string {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.string line {
  stroke: var(--woad);
  stroke-width: 2px;
}
.place-tag {
  position: absolute;
  left: 0;
  top: 0;
  display: flex;
  align-items: center;
  gap: 8px;
  width: max-content;
  min-height: 52px;
  padding: 4px 16px;
  border: 2px solid var(--woad);
  border-radius: 28px;
  background: var(--paper);
  box-shadow: 0 2px 8px #1f2d2b33;
  white-space: nowrap;
  font-weight: 600;
}
@media (max-width: 600px) {
  .place-tag {
    flex-wrap: wrap;
    justify-content: center;
    width: auto;
    max-width: calc(100vw - 32px);
    padding: 2px 8px;
    gap: 2px 4px;
  }
  .place-tag :deep(.typed.figure) {
    width: 84px;
    padding-inline: 4px;
    font-size: 18px;
  }
  .place-tag :deep(select.typed) {
    width: 84px;
    padding-inline: 4px 0;
  }
}
.place-tag :deep(input),
.place-tag :deep(select) {
  min-height: 44px;
}
</style>
