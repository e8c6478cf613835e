<script setup lang="ts">
import type { Photo } from '../../api/client'
import { wantedOf } from '../../state/job'
import { useOpenJob } from '../../state/keys'

/** What came of a photo beside its outline: why none was found, unless it was walked by hand, and what to look at. */
const props = defineProps<{ photo: Photo; walked?: boolean }>()
const state = useOpenJob()
const again = () => state.measureAgain(props.photo.id, wantedOf(props.photo))
</script>

<template>
  <p v-if="!walked && (photo.status === 'refused' || photo.status === 'failed')" class="said stop" role="alert">{{ photo.sentence }}</p>
  <p v-else-if="photo.status === 'choose'" class="said look">{{ photo.sentence }}</p>
  <p v-else-if="photo.status === 'stopped'" class="row">
    <span class="said look">{{ photo.sentence }}</span> <v-btn size="small" height="44" @click="again">Measure it again</v-btn>
  </p>
  <p v-for="w in photo.warnings" :key="w" class="said look">{{ w }}</p>
</template>
