<script setup lang="ts" generic="Key extends string">
import ToggleButton from './ToggleButton.vue'

/** One of a few, each with its words; `label` says what is chosen. */
defineProps<{ label: string; choices: Readonly<Record<Key, string>>; small?: boolean }>()
const chosen = defineModel<Key | null>({ required: true })
const keys = (choices: Readonly<Record<Key, string>>) => Object.keys(choices) as Key[]
</script>

<template>
  <div class="row" role="group" :aria-label="label">
    <ToggleButton v-for="key in keys(choices)" :key="key" :on="chosen === key" :size="small ? 'small' : undefined" @click="chosen = key">{{
      choices[key]
    }}</ToggleButton>
  </div>
</template>
