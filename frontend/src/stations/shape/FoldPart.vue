<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { useShapeBench } from '../../state/keys'

/** A piece that is the same on both sides: folded from corner to corner. */
const { work, table } = useShapeBench()
const { shape, folding, corner } = table
const letterOf = (k: number | undefined) => (k === undefined ? '' : (shape.value?.rings[0]?.joints[k]?.letter ?? ''))
async function fold(keep: Schemas['FoldOver']['keep']) {
  const [first, second] = folding.value ?? [0, 0]
  if (await work.fold(first, second, keep)) table.take('true_up')
}
</script>

<template>
  <div v-if="folding" class="part">
    <h2>Fold {{ letterOf(folding[0]) }} – {{ letterOf(folding[1]) }}</h2>
    <p>Both halves become alike. What are they made of?</p>
    <div class="row" role="group" aria-label="What both halves become">
      <v-btn color="primary" variant="flat" @click="fold('average')">Both, averaged</v-btn>
      <v-btn @click="fold('left')">The left half</v-btn>
      <v-btn @click="fold('right')">The right half</v-btn>
      <v-btn variant="text" @click="table.drop()">Cancel</v-btn>
    </div>
    <p class="soft small">Left and right as seen from {{ letterOf(folding[0]) }} towards {{ letterOf(folding[1]) }}.</p>
  </div>
  <div v-else class="part">
    <h2>Fold</h2>
    <p>
      {{ corner ? `From ${corner.letter}: now point at the corner where the fold ends.` : 'Point at the corner where the fold begins.' }}
    </p>
    <p class="soft">What is the same on both sides is folded, and both halves become alike.</p>
  </div>
</template>
