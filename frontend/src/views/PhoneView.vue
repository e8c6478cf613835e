<script setup lang="ts">
import { mdiCameraOutline, mdiImageMultipleOutline } from '@mdi/js'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, Refusal, sendFiles, type Schemas } from '../api/client'
import AppMark from '../ui/AppMark.vue'
import { sayWrong } from '../state/notice'
import { isUnderWay, usePolling } from '../state/work'

/** The page on a phone: it takes photos and sends them to one job, and says what came of them. */
const props = defineProps<{ token: string }>()
const POLL_MS = 1500
const job = shallowRef<Schemas['PhoneJob'] | null>(null)
const over = ref(false)
const taken = shallowRef<File[]>([])
const looks = shallowRef<string[]>([])
const share = ref<number | null>(null)
const camera = ref<HTMLInputElement | null>(null)
const album = ref<HTMLInputElement | null>(null)
const waiting = computed(() => job.value?.photos.some(isUnderWay) ?? false)

async function load() {
  try {
    job.value = await ask('get', '/api/phone/{token}', { params: { path: { token: props.token } } })
  } catch (e) {
    if (e instanceof Refusal && e.status === 404) over.value = true
    else sayWrong(e)
  }
}
function add(e: Event) {
  const el = e.target as HTMLInputElement
  taken.value = [...taken.value, ...(el.files ?? [])]
  looks.value = taken.value.map((f) => URL.createObjectURL(f))
  el.value = ''
}
function drop(k: number) {
  URL.revokeObjectURL(looks.value[k] ?? '')
  taken.value = taken.value.filter((_, i) => i !== k)
  looks.value = looks.value.filter((_, i) => i !== k)
}
async function send() {
  share.value = 0
  try {
    await sendFiles(
      '/api/phone/{token}/photos',
      { token: props.token },
      { field: 'photo', files: taken.value },
      { progress: (s) => (share.value = s) },
    )
    looks.value.forEach((l) => URL.revokeObjectURL(l))
    taken.value = []
    looks.value = []
    await load()
  } catch (e) {
    sayWrong(e)
  } finally {
    share.value = null
  }
}
const WORDS: Record<string, string> = {
  waiting: 'waits to be measured',
  working: 'is being measured',
  done: 'measured',
  choose: 'shows several pieces: choose at the bench',
  refused: 'take it again',
  failed: 'failed',
  stopped: 'was stopped at the bench',
}
onMounted(load)
usePolling(load, () => waiting.value && !over.value, POLL_MS)
</script>

<template>
  <main>
    <header>
      <AppMark />
      <h1>{{ job?.name ?? (over ? 'This link has run out' : 'One moment …') }}</h1>
    </header>
    <p v-if="over">Make a new one at the bench: Shape, then “Take photos with the phone”.</p>
    <template v-else-if="job">
      <p>Lay the piece flat with four sheets round it. Hold the phone over its middle and look straight down.</p>
      <div class="two">
        <v-btn color="primary" variant="flat" size="x-large" :prepend-icon="mdiCameraOutline" @click="camera?.click()">{{
          taken.length ? 'Another photo' : 'Take a photo'
        }}</v-btn>
        <v-btn size="x-large" :prepend-icon="mdiImageMultipleOutline" @click="album?.click()">From the album</v-btn>
      </div>
      <input ref="camera" type="file" accept="image/*" capture="environment" hidden aria-label="Camera" @change="add" />
      <input ref="album" type="file" accept="image/*" multiple hidden aria-label="Album" @change="add" />
      <section v-if="taken.length" aria-label="Photos to send">
        <ul class="looks">
          <li v-for="(l, k) in looks" :key="l">
            <img :src="l" :alt="`Photo ${k + 1}`" /><v-btn size="small" @click="drop(k)">Remove</v-btn>
          </li>
        </ul>
        <p v-if="taken.length > 1" class="soft">
          Photos sent together are measured together: they show the same things, with two sheets in common.
        </p>
        <v-btn color="primary" variant="flat" size="x-large" block :disabled="share !== null" @click="send">{{
          taken.length === 1 ? 'Send it' : `Send these ${taken.length}`
        }}</v-btn>
        <v-progress-linear
          v-if="share !== null"
          :model-value="100 * share"
          color="primary"
          height="10"
          rounded
          aria-label="How much has been sent"
        />
      </section>
      <section v-if="job.photos.length" aria-label="What came of them">
        <h2>Sent</h2>
        <article v-for="p in job.photos" :key="p.id">
          <img :src="`/api/phone/${token}/photos/${p.id}/preview.jpg`" alt="" />
          <div>
            <b>{{ p.name }}</b> {{ WORDS[p.status] }}
            <p v-if="p.sentence && p.status !== 'choose'" class="said stop">{{ p.sentence }}</p>
            <p v-for="w in p.warnings" :key="w" class="said look">{{ w }}</p>
          </div>
        </article>
      </section>
    </template>
  </main>
</template>

<style scoped>
main {
  max-width: 560px;
  margin: 0 auto;
  padding: 12px 16px 40px;
  display: grid;
  gap: 16px;
  font-size: 17px;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
}
h1 {
  font-size: 22px;
}
h2 {
  font-size: 19px;
}
.two,
section {
  display: grid;
  gap: 12px;
}
.looks {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.looks img {
  width: 100%;
  aspect-ratio: 4 / 3;
  object-fit: cover;
  border-radius: 8px;
}
article {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 12px;
  padding: 10px;
  border-radius: 8px;
  background: var(--paper);
}
article img {
  width: 84px;
  border-radius: 6px;
}
.said {
  margin-top: 6px;
  padding: 8px 10px;
  border-radius: 8px;
}
.look {
  background: var(--weld-pale);
}
.stop {
  background: var(--madder-pale);
}
</style>
