<script setup lang="ts">
import { watch } from 'vue'
import type { Refusal } from '../api/client'
import { useRefused } from './refused'

/** A small form of its own: `send` gives why it was refused, which stands below its fields until one of them is changed, or at the
 * field whose text it quotes where the fields say it themselves (`placed`). `values` are the texts as they are typed, by their
 * keys; `taken` says that it was not refused. */
const props = defineProps<{ values: Readonly<Record<string, string | undefined>>; send: () => Promise<Refusal | null>; placed?: boolean }>()
const emit = defineEmits<{ taken: [] }>()
const { refused, heard } = useRefused(() => props.values)
watch(
  () => Object.values(props.values).join('\n'),
  () => heard(null),
)
async function submit() {
  if (heard(await props.send())) emit('taken')
}
</script>

<template>
  <form @submit.prevent="submit">
    <slot :refused="refused" />
    <p v-if="refused && !(placed && refused.at)" class="refused" role="alert">{{ refused.why }}</p>
  </form>
</template>

<style scoped>
.refused {
  flex-basis: 100%;
  margin: 0;
}
</style>
