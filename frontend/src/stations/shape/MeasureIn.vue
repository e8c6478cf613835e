<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { reactive, ref, shallowRef } from 'vue'
import { ask, type Change, type Schemas } from '../../api/client'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import TabletTouches from './TabletTouches.vue'
import ChoiceRow from '../../ui/ChoiceRow.vue'

/** An outline from tape measures, for what can't be photographed. */
const state = useOpenJob()
const { job } = state
const kinds = {
  sides: 'four sides',
  rectangle: 'rectangle',
  round: 'round',
  stations: 'offsets',
  onOff: 'on and off',
  tablet: 'tablet',
} as const
const kind = ref<keyof typeof kinds>('sides')
const sides = reactive({ ab: '', bc: '', cd: '', da: '', ac: '', bd: '', symmetric: false })
const box = reactive({ width: '', length: '', radius: '', diagonal: '' })
const round = reactive({ girth: '', pencil: '' })
const stations = reactive({ stations: [0, 1, 2].map(() => ({ at: '', lower: '', upper: '' })), smooth: true })
const onOff = reactive({ width_on: '', width_off: '', length_on: '', length_off: '', stretch_across: '', stretch_along: '' })
const apart = ref('')
const touches = shallowRef<Schemas['TabletView']['touches']>([])
const SIDES = [
  ['ab', 'A to B'],
  ['bc', 'B to C'],
  ['cd', 'C to D'],
  ['da', 'D to A'],
  ['ac', 'diagonal A to C'],
  ['bd', 'diagonal B to D'],
] as const

function change(): Change {
  if (kind.value === 'sides') return { kind: 'measure_four_sided', ...sides }
  if (kind.value === 'rectangle') return { kind: 'measure_rectangle', ...box }
  if (kind.value === 'round') return { kind: 'measure_round', ...round }
  if (kind.value === 'onOff') return { kind: 'measure_on_off', ...onOff }
  if (kind.value === 'tablet') return { kind: 'measure_touches', apart: apart.value, touches: touches.value }
  return { kind: 'measure_stations', stations: stations.stations.filter((s) => s.at || s.upper), smooth: stations.smooth }
}
async function draw() {
  const was = kind.value
  if ((await state.do(change())) && was === 'tablet') await ask('delete', '/api/tablet').catch(sayWrong)
}
</script>

<template>
  <form aria-label="Enter measurements" @submit.prevent="draw">
    <p class="soft small">Can’t it be photographed? Type what your tape says, in {{ job?.unit }} unless you write the unit.</p>
    <ChoiceRow v-model="kind" label="What kind of outline" :choices="kinds" small />
    <div v-if="kind === 'sides'" class="fields two">
      <svg viewBox="-8 -10 116 96" aria-hidden="true">
        <path d="M4 74 L96 70 L84 8 L14 14 Z" />
        <path d="M4 74 L84 8 M96 70 L14 14" class="thin" />
        <text x="-6" y="84">A</text>
        <text x="98" y="80">B</text>
        <text x="87" y="6">C</text>
        <text x="4" y="10">D</text>
      </svg>
      <label v-for="[k, words] in SIDES" :key="k"
        >{{ words }}<input v-model="sides[k]" class="typed" inputmode="decimal" :required="k.length === 2 && k !== 'ac' && k !== 'bd'"
      /></label>
      <label class="check"><input v-model="sides.symmetric" type="checkbox" /> it is symmetric, and no diagonal was measured</label>
    </div>
    <div v-else-if="kind === 'rectangle'" class="fields">
      <label>width<input v-model="box.width" class="typed" inputmode="decimal" required /></label>
      <label>length<input v-model="box.length" class="typed" inputmode="decimal" required /></label>
      <label>corner radius<input v-model="box.radius" class="typed" inputmode="decimal" placeholder="sharp" /></label>
      <label>or the diagonal through the round corners<input v-model="box.diagonal" class="typed" inputmode="decimal" /></label>
    </div>
    <div v-else-if="kind === 'round'" class="fields">
      <label>girth<input v-model="round.girth" class="typed" inputmode="decimal" required /></label>
      <label>less the pencil’s stand-off<input v-model="round.pencil" class="typed" inputmode="decimal" placeholder="0" /></label>
    </div>
    <div v-else-if="kind === 'onOff'" class="fields">
      <p class="soft small">
        A worn cover, taped on its frame (stretched) and off it (relaxed). The new one is made as much shorter as its cloth will stretch.
      </p>
      <table>
        <thead>
          <tr>
            <th />
            <th>on the frame</th>
            <th>off it</th>
            <th>new, stretch %</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th>width</th>
            <td><input v-model="onOff.width_on" class="typed" inputmode="decimal" aria-label="Width on the frame" required /></td>
            <td><input v-model="onOff.width_off" class="typed" inputmode="decimal" aria-label="Width off the frame" /></td>
            <td>
              <input
                v-model="onOff.stretch_across"
                class="typed"
                inputmode="decimal"
                placeholder="as old"
                aria-label="New cloth’s stretch across, percent"
              />
            </td>
          </tr>
          <tr>
            <th>length</th>
            <td><input v-model="onOff.length_on" class="typed" inputmode="decimal" aria-label="Length on the frame" required /></td>
            <td><input v-model="onOff.length_off" class="typed" inputmode="decimal" aria-label="Length off the frame" /></td>
            <td>
              <input
                v-model="onOff.stretch_along"
                class="typed"
                inputmode="decimal"
                placeholder="as old"
                aria-label="New cloth’s stretch along, percent"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <p class="soft small">A seat that carries a person is to be tested by somebody competent before it is used.</p>
    </div>
    <TabletTouches v-else-if="kind === 'tablet'" v-model="apart" @touched="(places) => (touches = places)" :unit="job?.unit ?? 'mm'" />
    <div v-else class="fields">
      <p class="soft small">
        Lay a straight base line. At each station along it, how far does each side of the thing lie from it? Below is negative.
      </p>
      <table>
        <thead>
          <tr>
            <th>along</th>
            <th>lower</th>
            <th>upper</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="(s, k) in stations.stations" :key="k">
            <td><input v-model="s.at" class="typed" inputmode="decimal" :aria-label="`Station ${k + 1}, along the base line`" /></td>
            <td>
              <input v-model="s.lower" class="typed" inputmode="decimal" placeholder="0" :aria-label="`Station ${k + 1}, lower side`" />
            </td>
            <td><input v-model="s.upper" class="typed" inputmode="decimal" :aria-label="`Station ${k + 1}, upper side`" /></td>
            <td>
              <button
                v-if="stations.stations.length > 3"
                type="button"
                :aria-label="`Remove station ${k + 1}`"
                @click="stations.stations.splice(k, 1)"
              >
                <svg viewBox="0 0 24 24" width="18" height="18" aria-hidden="true"><path :d="mdiClose" fill="currentColor" /></svg>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <v-btn size="small" @click="stations.stations.push({ at: '', lower: '', upper: '' })">Another station</v-btn>
      <label class="check"><input v-model="stations.smooth" type="checkbox" /> the sides run smoothly</label>
    </div>
    <v-btn type="submit" color="primary" variant="flat">Draw it</v-btn>
  </form>
</template>

<style scoped>
form,
.fields {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.fields {
  width: 100%;
}
.two {
  grid-template-columns: repeat(2, minmax(0, 1fr));
  column-gap: 18px;
}
.two > svg,
.two > .check {
  grid-column: 1 / -1;
}
.two > label:not(.check) {
  flex-direction: column;
  align-items: start;
  gap: 0;
  font-size: 13px;
}
.two > label:not(.check) input {
  width: 100%;
  height: 44px;
  font-size: 15px;
}
label {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  width: 100%;
}
label input.typed {
  box-sizing: border-box;
  width: 92px;
  flex: none;
}
.check {
  justify-content: start;
  min-height: 44px;
}
.check input {
  width: 20px;
  height: 20px;
  accent-color: var(--woad);
}
.fields > svg {
  width: 150px;
  justify-self: center;
}
.fields > svg path {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
}
.fields > svg .thin {
  stroke-width: 1;
  stroke-dasharray: 4 3;
}
.fields > svg text {
  font-size: 13px;
  font-weight: 700;
  fill: currentColor;
}
th {
  text-align: left;
  font-weight: 400;
  font-size: 13px;
  color: var(--soft-ink);
}
td .typed {
  width: 72px;
}
td button {
  width: 40px;
  height: 44px;
  border: 0;
  background: none;
  color: inherit;
  cursor: pointer;
}
</style>
