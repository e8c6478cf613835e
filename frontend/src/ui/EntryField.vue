<script setup lang="ts">
import { useId, useTemplateRef, watch } from 'vue'
import type { Refusal } from '../api/client'
import { standsNow } from '../state/fields'
import { useEntry } from './entry'

/** A field that is kept when it is left: what the server refuses stays in it, with the reason beneath. */
const props = defineProps<{
  label: string
  value: string
  keep: (text: string) => Promise<Refusal | null>
  unit?: string
  /** What stands in it while nothing is typed. */
  hint?: string
  words?: boolean
  large?: boolean
}>()
const emit = defineEmits<{ left: [] }>()
const { text, isKept, refused, send, takeBack, undo } = useEntry(() => props.value, props.keep)
const field = useTemplateRef<HTMLInputElement>('field')
const id = useId()
watch([text, isKept], () => isKept.value && field.value && standsNow(field.value), { flush: 'post' })

/** Begin typing with this key: a figure replaces the one before. */
function type(key: string) {
  text.value = key
  field.value?.focus()
}
/** Ctrl Z is the field's first: a refused text goes. */
function undoHere(e: KeyboardEvent) {
  if ((e.ctrlKey || e.metaKey) && !e.shiftKey && undo()) e.preventDefault()
}
function leave() {
  takeBack()
  field.value?.blur()
  emit('left')
}
defineExpose({ type, focus: () => field.value?.focus() })
</script>

<template>
  <span class="entry"
    ><span class="line"
      ><input
        ref="field"
        v-model="text"
        class="typed"
        :class="{ figure: large, words, wrong: refused }"
        :aria-label="label"
        :aria-invalid="!!refused"
        :aria-describedby="refused ? id : undefined"
        :inputmode="words ? 'text' : 'decimal'"
        :placeholder="hint"
        autocomplete="off"
        @change="send"
        @keydown.enter.prevent="send"
        @keydown.z="undoHere"
        @keydown.esc.stop="leave"
      /><span v-if="unit">{{ unit }}</span></span
    ><span v-if="refused" :id="id" class="refused" role="alert">{{ refused }}</span></span
  >
</template>

<style scoped>
.entry {
  display: inline-grid;
  gap: 2px;
}
.line {
  display: inline-flex;
  align-items: baseline;
  gap: 6px;
  white-space: nowrap;
}
.typed {
  width: 76px;
  text-align: right;
  font-weight: 600;
}
.typed.words {
  width: 150px;
  text-align: left;
}
.typed.figure {
  width: 132px;
  font-size: 26px;
}
.typed.wrong {
  border-bottom: 3px solid var(--madder);
}
.refused {
  max-width: 250px;
  white-space: normal;
  font-size: 13px;
  font-weight: 400;
  line-height: 1.25;
  color: var(--madder);
}
</style>
