<script setup lang="ts">
import { mdiImagePlusOutline } from '@mdi/js'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ask, sendFiles, type Schemas } from '../../api/client'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import InlineField from '../../ui/InlineField.vue'

/** Photos of how it came apart: kept as they are, with numbered parts. */
type Kept = Schemas['KeptView']
const state = useOpenJob()
const photos = shallowRef<Kept[]>([])
const openId = ref<number | null>(null)
const input = ref<HTMLInputElement | null>(null)
const open = computed(() => photos.value.find((p) => p.id === openId.value) ?? null)

onMounted(() => ask('get', '/api/jobs/{job_id}/kept-photos', { params: { path: state.path } }).then((p) => (photos.value = p), sayWrong))
async function send(e: Event) {
  const el = e.target as HTMLInputElement
  const files = [...(el.files ?? [])]
  el.value = ''
  if (!files.length) return
  try {
    photos.value = await sendFiles('/api/jobs/{job_id}/kept-photos', state.path, { field: 'photo', files })
    openId.value = photos.value.at(-1)?.id ?? null
  } catch (err) {
    sayWrong(err)
  }
}
async function keep(photo: Kept, change: Partial<Schemas['KeptIn']>) {
  const body = { note: photo.note, parts: photo.parts, ...change }
  try {
    const kept = await ask('put', '/api/kept-photos/{photo_id}', { params: { path: { photo_id: photo.id } }, body })
    photos.value = photos.value.map((p) => (p.id === kept.id ? kept : p))
  } catch (e) {
    sayWrong(e)
  }
}
function mark(e: MouseEvent) {
  const box = (e.currentTarget as Element).getBoundingClientRect()
  if (open.value)
    keep(open.value, {
      parts: [...open.value.parts, { x: (e.clientX - box.left) / box.width, y: (e.clientY - box.top) / box.height, text: '' }],
    })
}
const name = (photo: Kept, k: number, text: string) => keep(photo, { parts: photo.parts.map((p, i) => (i === k ? { ...p, text } : p)) })
const unmark = (photo: Kept, k: number) => keep(photo, { parts: photo.parts.filter((_, i) => i !== k) })
async function drop(photo: Kept) {
  try {
    photos.value = await ask('delete', '/api/kept-photos/{photo_id}', { params: { path: { photo_id: photo.id } } })
    openId.value = null
  } catch (e) {
    sayWrong(e)
  }
}
</script>

<template>
  <fieldset>
    <legend>Photos of how it came apart</legend>
    <div class="row">
      <button
        v-for="p in photos"
        :key="p.id"
        type="button"
        class="small-photo"
        :class="{ on: p.id === openId }"
        :aria-label="`${p.name}, ${p.parts.length} parts`"
        @click="openId = openId === p.id ? null : p.id"
      >
        <img :src="`/api/kept-photos/${p.id}/preview.jpg`" alt="" />
      </button>
      <v-btn :prepend-icon="mdiImagePlusOutline" @click="input?.click()">Add photos</v-btn>
      <input ref="input" type="file" hidden multiple accept="image/*,.heic,.heif" aria-label="Photos to add" @change="send" />
    </div>
    <div v-if="open" class="open">
      <div class="photo" @click="mark">
        <img :src="`/api/kept-photos/${open.id}/preview.jpg`" :alt="open.note || open.name" />
        <svg
          v-for="(p, k) in open.parts"
          :key="k"
          class="number"
          viewBox="-12 -12 24 24"
          width="28"
          height="28"
          :style="{ left: `${100 * p.x}%`, top: `${100 * p.y}%` }"
          aria-hidden="true"
        >
          <circle r="11" />
          <text y="5">{{ k + 1 }}</text>
        </svg>
      </div>
      <div class="words">
        <p class="soft small">Point at each part as it comes off; it is numbered.</p>
        <label v-for="(p, k) in open.parts" :key="k"
          ><b>{{ k + 1 }}</b
          ><InlineField
            words
            :model-value="p.text"
            maxlength="80"
            :aria-label="`Part ${k + 1} is`"
            placeholder="what it is"
            @change="name(open, k, ($event.target as HTMLInputElement).value)"
          /><button type="button" :aria-label="`Remove part ${k + 1}`" @click="unmark(open, k)">✕</button></label
        >
        <label
          >note
          <InlineField
            words
            :model-value="open.note"
            maxlength="400"
            @change="keep(open, { note: ($event.target as HTMLInputElement).value })"
        /></label>
        <v-btn size="small" color="error" @click="drop(open)">Remove the photo</v-btn>
      </div>
    </div>
  </fieldset>
</template>

<style scoped>
.small-photo {
  padding: 0;
  border: 2px solid transparent;
  border-radius: 8px;
  background: none;
  cursor: pointer;
}
.small-photo.on {
  border-color: var(--woad);
}
.small-photo img {
  display: block;
  height: 64px;
  border-radius: 6px;
}
.open {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(200px, 1fr);
  gap: 14px;
  margin-top: 10px;
}
.photo {
  position: relative;
  align-self: start;
  cursor: crosshair;
}
.photo img {
  display: block;
  width: 100%;
  border-radius: 8px;
}
.number {
  position: absolute;
  translate: -50% -50%;
}
.number circle {
  fill: #1f2d2b;
  stroke: #fff;
  stroke-width: 2;
}
.number text {
  fill: #fff;
  font-weight: 700;
  font-size: 14px;
  text-anchor: middle;
}
.words {
  display: grid;
  gap: 6px;
  align-content: start;
  justify-items: start;
}
.words label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.words .typed {
  width: 190px;
}
.words button {
  min-width: 44px;
  min-height: 44px;
  border: 0;
  background: none;
  color: var(--soft-ink);
  cursor: pointer;
}
@media (max-width: 600px) {
  .open {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
