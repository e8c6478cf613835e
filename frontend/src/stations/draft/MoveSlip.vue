<script setup lang="ts">
/** Turning and flipping what is in hand, for those without keys. */
defineProps<{ held: number }>()
const emit = defineEmits<{ turn: [degrees: number]; flip: [] }>()
</script>

<template>
  <div class="part">
    <h2>Move</h2>
    <p>{{ held ? `${held === 1 ? 'One panel is' : `${held} panels are`} in hand.` : 'Drag a panel; with Shift take several.' }}</p>
    <div class="row">
      <v-btn :disabled="!held" @click="emit('turn', 90)">A quarter round</v-btn>
      <v-btn :disabled="!held" @click="emit('turn', 15)">15° round</v-btn>
      <v-btn :disabled="!held" @click="emit('flip')">Flip over</v-btn>
    </div>
    <p class="soft small">Sides catch on one another. ← → ↑ ↓ nudge (Shift ten times as far), r turns, x flips.</p>
  </div>
</template>
