<script setup lang="ts">
import { mdiCameraPlusOutline } from '@mdi/js'
import { useOpenJob } from '../../state/keys'
import PhoneLink from './PhoneLink.vue'
import PhotoSlip from './PhotoSlip.vue'

/** The photo, what is looked for in it, and other photos. */
const emit = defineEmits<{ photos: [] }>()
const { job, measuring, sending } = useOpenJob()
</script>

<template>
  <h2>The photo</h2>
  <PhotoSlip />
  <div v-if="job?.photos.length || job?.shape" class="row">
    <v-btn :prepend-icon="mdiCameraPlusOutline" :disabled="!!measuring || !!sending" @click="emit('photos')">{{
      job.photos.length ? 'Other photos' : 'Send photos'
    }}</v-btn>
  </div>
  <PhoneLink v-if="job?.photos.length || job?.shape" />
</template>
