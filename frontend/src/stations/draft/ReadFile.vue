<script setup lang="ts">
import { ref, shallowRef, useTemplateRef } from 'vue'
import { Refusal } from '../../api/client'
import { useOpenJob } from '../../state/keys'

/** Reads panels out of a drawing, and asks what the drawing leaves open: how large it is, whether hidden layers count.
 * `done` gives the first new panel’s id. */
const emit = defineEmits<{ done: [first: string] }>()
const state = useOpenJob()
const input = useTemplateRef<HTMLInputElement>('input')
const file = shallowRef<File | null>(null)
const question = shallowRef<Refusal | null>(null)
const width = ref('')

defineExpose({ open: () => input.value?.click() })

function chosen() {
  const el = input.value
  file.value = el?.files?.[0] ?? null
  if (el) el.value = ''
  width.value = ''
  return read({})
}
async function read(answers: Record<string, string>) {
  if (!file.value) return
  const count = state.job.value?.panels.length ?? 0
  const came = await state.readFile(file.value, answers)
  question.value = came instanceof Refusal ? came : null
  if (came === true) emit('done', state.job.value?.panels[count]?.id ?? '')
}
</script>

<template>
  <input ref="input" type="file" hidden accept=".svg,.dxf,.json" aria-label="Outline file" @change="chosen" />
  <v-dialog :model-value="!!question" max-width="460" @update:model-value="question = null">
    <v-card v-if="question" title="One question about this drawing" :text="question.message">
      <form v-if="question.reason === 'unknown_size'" @submit.prevent="read({ width })">
        <v-card-text
          ><v-text-field
            v-model="width"
            autofocus
            label="How wide, all together"
            :placeholder="state.job.value?.unit === 'in' ? '12 3/8' : '314'"
        /></v-card-text>
        <v-card-actions>
          <v-btn @click="question = null">Cancel</v-btn>
          <v-btn type="submit" variant="flat" color="primary" :disabled="!width.trim()">Read it</v-btn>
        </v-card-actions>
      </form>
      <v-card-actions v-else>
        <v-btn @click="question = null">Cancel</v-btn>
        <v-btn @click="read({ hidden: 'leave' })">Leave them out</v-btn>
        <v-btn variant="flat" color="primary" @click="read({ hidden: 'read' })">Read them too</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
