<script setup lang="ts">
import type { Photo } from '../../api/client'
import { wantedOf } from '../../state/job'
import { useOpenJob } from '../../state/keys'
import SaidNotes from '../../ui/SaidNotes.vue'

/** What came of a photo beside its outline: why none was found, unless it was walked by hand, and what to look at, `folded` where
 * that is told of stretch by stretch. */
const props = defineProps<{ photo: Photo; walked?: boolean; folded?: boolean }>()
const state = useOpenJob()
const again = () => state.measureAgain(props.photo.id, wantedOf(props.photo))
</script>

<template>
  <p v-if="!walked && (photo.status === 'refused' || photo.status === 'failed')" class="said stop" role="alert">{{ photo.sentence }}</p>
  <p v-else-if="photo.status === 'choose'" class="said look">{{ photo.sentence }}</p>
  <p v-else-if="photo.status === 'stopped'" class="row">
    <span class="said look">{{ photo.sentence }}</span> <v-btn size="small" height="44" @click="again">Measure it again</v-btn>
  </p>
  <SaidNotes :notes="photo.warnings.map((w) => ({ key: w, sentence: w, severity: 'look' }))" :folded="folded" />
</template>
