<script setup lang="ts">
import { reactive, ref, shallowRef, watch } from 'vue'
import { ask, type Change, type Schemas } from '../../api/client'
import { useOpenJob } from '../../state/keys'
import { sayWrong } from '../../state/notice'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import { rowsIn, withoutRow, type Field } from '../../ui/fields'
import FormFields from '../../ui/FormFields.vue'
import { useRefused } from '../../ui/refused'
import RowsTable from '../../ui/RowsTable.vue'
import TabletTouches from './TabletTouches.vue'

/** An outline from tape measures, for what can’t be photographed. */
const state = useOpenJob()
const { job } = state
const KINDS = {
  sides: 'four sides',
  rectangle: 'rectangle',
  round: 'round',
  stations: 'offsets',
  onOff: 'on and off',
  tablet: 'tablet',
} as const
const length = (key: string, title: string, usual?: string): Field => ({ key, title, kind: 'length', usual })
const percent = (key: string, title: string): Field => ({ key, title, kind: 'percent', usual: 'as old' })
const FIELDS: Record<keyof typeof KINDS, readonly Field[]> = {
  sides: [
    length('ab', 'A to B'),
    length('bc', 'B to C'),
    length('cd', 'C to D'),
    length('da', 'D to A'),
    length('ac', 'diagonal A to C'),
    length('bd', 'diagonal B to D'),
    { key: 'symmetric', title: 'it is symmetric, and no diagonal was measured', kind: 'yes' },
  ],
  rectangle: [
    length('width', 'width'),
    length('length', 'length'),
    length('radius', 'corner radius', 'sharp'),
    length('diagonal', 'or the diagonal through the round corners'),
  ],
  round: [length('girth', 'girth'), length('pencil', 'less the pencil’s stand-off', '0')],
  stations: [{ key: 'smooth', title: 'the sides run smoothly', kind: 'yes' }],
  onOff: [
    length('width_on', 'width on the frame'),
    length('width_off', 'width off it'),
    percent('stretch_across', 'new cloth’s stretch across'),
    length('length_on', 'length on the frame'),
    length('length_off', 'length off it'),
    percent('stretch_along', 'new cloth’s stretch along'),
  ],
  tablet: [],
}
const STATION = [length('at', 'along'), length('lower', 'lower', '0'), length('upper', 'upper')]
const kind = ref<keyof typeof KINDS>('sides')
const values = reactive<Record<string, string>>({ smooth: 'yes' })
const apart = ref('')
const touches = shallowRef<Schemas['TabletView']['touches']>([])
const typed = (key: string) => values[key] ?? ''

function change(): Change {
  switch (kind.value) {
    case 'sides': {
      const [ab, bc, cd, da, ac, bd] = [typed('ab'), typed('bc'), typed('cd'), typed('da'), typed('ac'), typed('bd')]
      return { kind: 'measure_four_sided', ab, bc, cd, da, ac, bd, symmetric: !!values.symmetric }
    }
    case 'rectangle':
      return {
        kind: 'measure_rectangle',
        width: typed('width'),
        length: typed('length'),
        radius: typed('radius'),
        diagonal: typed('diagonal'),
      }
    case 'round':
      return { kind: 'measure_round', girth: typed('girth'), pencil: typed('pencil') }
    case 'onOff':
      return {
        kind: 'measure_on_off',
        width_on: typed('width_on'),
        width_off: typed('width_off'),
        length_on: typed('length_on'),
        length_off: typed('length_off'),
        stretch_across: typed('stretch_across'),
        stretch_along: typed('stretch_along'),
      }
    case 'tablet':
      return { kind: 'measure_touches', apart: apart.value, touches: touches.value }
    case 'stations':
      return { kind: 'measure_stations', stations: stations(), smooth: !!values.smooth }
  }
}
const stations = () =>
  Array.from({ length: rowsIn(values, 'stations') }, (_, k) => ({
    at: typed(`stations.${k}.at`),
    lower: typed(`stations.${k}.lower`),
    upper: typed(`stations.${k}.upper`),
  }))
const { refused, heard, changed } = useRefused(() => values)
watch(kind, () => heard(null))
async function draw() {
  const was = kind.value
  if (heard(await state.keep(change())) && was === 'tablet') await ask('delete', '/api/tablet').catch(sayWrong)
}
function set(key: string, value: string) {
  values[key] = value
  changed(key)
}
</script>

<template>
  <form aria-label="Enter measurements" @submit.prevent="draw">
    <p class="soft small">Can’t it be photographed? Type what your tape says, in {{ job?.unit }} unless you write the unit.</p>
    <ChoiceRow v-model="kind" label="What kind of outline" :choices="KINDS" small />
    <svg v-if="kind === 'sides'" viewBox="-14 -12 130 106" aria-hidden="true">
      <path d="M4 74 L96 70 L84 8 L14 14 Z" />
      <path d="M4 74 L84 8 M96 70 L14 14" class="thin" />
      <text x="-14" y="92">A</text>
      <text x="100" y="88">B</text>
      <text x="88" y="6">C</text>
      <text x="-6" y="10">D</text>
    </svg>
    <p v-if="kind === 'onOff'" class="soft small">
      A worn cover, taped on its frame (stretched) and off it (relaxed). The new one is made as much shorter as its cloth will stretch.
    </p>
    <TabletTouches v-if="kind === 'tablet'" v-model="apart" @touched="(places) => (touches = places)" :unit="job?.unit ?? 'mm'" />
    <template v-if="kind === 'stations'">
      <p class="soft small">
        Lay a straight base line. At each station along it, how far does each side of the thing lie from it? Below is negative.
      </p>
      <RowsTable
        title="station"
        of="stations"
        :columns="STATION"
        :values="values"
        :unit="job?.unit ?? 'mm'"
        @set="set"
        @less="withoutRow(values, 'stations', $event)"
      />
    </template>
    <div class="fields"><FormFields :fields="FIELDS[kind]" :values="values" :unit="job?.unit" :refused="refused" @set="set" /></div>
    <p v-if="refused && !FIELDS[kind].some((f) => f.key === refused?.at)" class="refused" role="alert">{{ refused.why }}</p>
    <p v-if="kind === 'onOff'" class="soft small">A seat that carries a person is to be tested by somebody competent before it is used.</p>
    <v-btn type="submit" color="primary" variant="flat">Draw it</v-btn>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.fields {
  width: 100%;
}
svg {
  width: 76px;
  justify-self: center;
}
path {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
}
.thin {
  stroke-width: 1;
  stroke-dasharray: 4 3;
}
text {
  font-size: 22.5px;
  font-weight: 700;
  fill: currentColor;
}
</style>
