<script setup lang="ts">
import { mdiCameraPlusOutline } from '@mdi/js'
import { onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { ask, sendFiles, type Schemas } from '../api/client'
import AppMark from '../ui/AppMark.vue'
import WorkProgress from '../ui/WorkProgress.vue'
import { sayWrong } from '../state/notice'
import { isUnderWay, usePolling } from '../state/work'

/** The workshop's cameras, calibrated once from photos of a sheet. */
type Camera = Schemas['CameraView']
const POLL_MS = 1500
const router = useRouter()
const cameras = shallowRef<Camera[]>([])
const input = ref<HTMLInputElement | null>(null)
const share = ref<number | null>(null)

async function look() {
  cameras.value = await ask('get', '/api/cameras')
}
const load = () => look().catch(sayWrong)
usePolling(look, () => cameras.value.some(isUnderWay), POLL_MS)
async function send(e: Event) {
  const el = e.target as HTMLInputElement
  const files = [...(el.files ?? [])]
  el.value = ''
  if (!files.length) return
  share.value = 0
  try {
    await sendFiles('/api/cameras', {}, { field: 'photo', files }, { progress: (s) => (share.value = s) })
    await load()
  } catch (err) {
    sayWrong(err)
  } finally {
    share.value = null
  }
}
async function stop(id: number) {
  try {
    cameras.value = await ask('post', '/api/cameras/{camera_id}/stop', { params: { path: { camera_id: id } } })
  } catch (e) {
    sayWrong(e)
    await load()
  }
}
async function forget(id: number) {
  try {
    cameras.value = await ask('delete', '/api/cameras/{camera_id}', { params: { path: { camera_id: id } } })
  } catch (e) {
    sayWrong(e)
  }
}
onMounted(load)
</script>

<template>
  <main>
    <header>
      <AppMark />
      <h1>Cameras</h1>
      <span class="gap" /><v-btn @click="router.back()">Back</v-btn><v-btn to="/">The wall</v-btn>
    </header>
    <div class="station">
      <section class="paper-sheet" aria-label="Cameras">
        <p v-if="!cameras.length" class="soft">
          No camera has been calibrated yet. Photos are measured all the same; with a profile a single photo is surer, above all where
          sheets don’t lie quite flat.
        </p>
        <article v-for="c in cameras" :key="c.id">
          <div>
            <h2>{{ c.name }}</h2>
            <p class="soft">{{ c.size }} pixels · {{ new Date(c.at).toLocaleDateString('en-GB') }}</p>
            <p v-if="c.quality" class="said">{{ c.quality[0]?.toUpperCase() }}{{ c.quality.slice(1) }}.</p>
            <p v-else-if="c.sentence" class="said stop" role="alert">{{ c.sentence }}</p>
            <WorkProgress v-else :work="c" can-stop @stop="stop(c.id)" />
          </div>
          <v-btn @click="forget(c.id)">Remove</v-btn>
        </article>
      </section>
      <aside class="paper-sheet">
        <h2>Calibrate one</h2>
        <ol>
          <li>
            Lay a reference sheet on something flat, or <a href="/api/board.png" target="_blank">show one on a screen</a>, which is flatter
            than any paper.
          </li>
          <li>
            Photograph it five times or more with the same camera, held the same way, without zooming: from above, and tilted by 20 to 30°
            to the left, to the right, forward and back. Fill the picture.
          </li>
          <li>Send all of them together.</li>
        </ol>
        <v-btn
          color="primary"
          variant="flat"
          size="large"
          :prepend-icon="mdiCameraPlusOutline"
          :disabled="share !== null"
          @click="input?.click()"
          >Send the photos</v-btn
        >
        <v-progress-linear
          v-if="share !== null"
          :model-value="100 * share"
          color="primary"
          height="8"
          rounded
          aria-label="How much has been sent"
        />
        <input ref="input" type="file" hidden multiple accept="image/*,.heic,.heif" aria-label="Photos of a sheet" @change="send" />
        <p class="soft">It is used by itself for photos of the same make, model, focal length and size.</p>
      </aside>
    </div>
  </main>
</template>

<style scoped src="../bench/station.css"></style>
<style scoped src="./page.css"></style>
<style scoped>
article {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 16px;
  padding-bottom: 14px;
  border-bottom: 1px solid var(--hairline);
}
article p {
  margin-top: 6px;
}
ol {
  margin: 0;
  padding-left: 20px;
  display: grid;
  gap: 10px;
}
</style>
