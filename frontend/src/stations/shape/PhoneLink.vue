<script setup lang="ts">
import { mdiCellphone } from '@mdi/js'
import { useIntervalFn } from '@vueuse/core'
import { shallowRef } from 'vue'
import { ask, type Schemas } from '../../api/client'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'

/** A picture for the phone's camera: it opens a page that sends photos to this job. */
const LOOK_MS = 3000
const state = useOpenJob()
const link = shallowRef<Schemas['PhoneView'] | null>(null)
const until = () => new Date(link.value?.until ?? 0).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

/** While the link works, look now and then for what the phone sent. */
useIntervalFn(() => {
  if (link.value && !state.busy.value && !state.measuring.value && Date.now() < Date.parse(link.value.until)) void state.refresh()
}, LOOK_MS)

async function make() {
  try {
    link.value = await ask('post', '/api/jobs/{job_id}/phone', { params: { path: state.path } })
  } catch (e) {
    sayWrong(e)
  }
}

async function end() {
  try {
    await ask('delete', '/api/jobs/{job_id}/phone', { params: { path: state.path } })
    link.value = null
  } catch (e) {
    sayWrong(e)
  }
}
</script>

<template>
  <div role="group" aria-label="From the phone">
    <v-btn v-if="!link" :prepend-icon="mdiCellphone" @click="make">Take photos with the phone</v-btn>
    <figure v-else>
      <img :src="link.picture" alt="Point the phone’s camera at this picture" width="160" height="160" />
      <figcaption class="small">
        Or type <b>{{ link.url }}</b>. It works until {{ until() }}, for this job and {{ link.photos }} photos.
      </figcaption>
      <v-btn class="end" @click="end">No more photos from phones</v-btn>
    </figure>
  </div>
</template>

<style scoped>
figure {
  margin: 10px 0 0;
  display: grid;
  grid-template-columns: max-content minmax(110px, 300px);
  gap: 10px;
  justify-items: start;
}
img {
  background: #fff;
  border-radius: 8px;
}
.end {
  grid-column: 1 / -1;
}
figcaption {
  overflow-wrap: anywhere;
}
</style>
