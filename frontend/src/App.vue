<script setup lang="ts">
import { notice } from './state/notice'
</script>

<template>
  <v-app>
    <router-view :key="$route.params.id ? `job-${$route.params.id}` : String($route.name)" />
    <v-snackbar
      :model-value="!!notice"
      :color="notice?.wrong ? 'error' : 'surface'"
      :timeout="notice?.wrong ? 12000 : 5000"
      location="bottom"
      multi-line
      @update:model-value="notice = null"
    >
      <span :role="notice?.wrong ? 'alert' : 'status'">{{ notice?.text }}</span>
      <template #actions><v-btn variant="text" @click="notice = null">Close</v-btn></template>
    </v-snackbar>
  </v-app>
</template>
