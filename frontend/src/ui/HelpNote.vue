<script setup lang="ts">
import { ref } from 'vue'
import { HELP, type HelpKey, type HelpPage } from '../logic/help'
import HelpPicture from './HelpPicture.vue'
import HelpText from './HelpText.vue'

/** Help where it is needed: a page on what is at hand, shown by its small picture. */
const props = defineProps<{ about: HelpKey }>()
const open = ref(false)
const page = (): HelpPage => HELP[props.about]
</script>

<template>
  <button class="ask" type="button" :aria-label="`Help: ${page().title}`" @click="open = true">
    <HelpPicture :page="page()" class="picture" /><span>?</span>
  </button>
  <v-dialog v-model="open" max-width="460" :aria-label="page().title">
    <div class="sheet">
      <HelpText :page="page()" />
      <div class="row">
        <v-btn to="/help">All of Help</v-btn><v-btn color="primary" variant="flat" autofocus @click="open = false">Close</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.ask {
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 44px;
  height: 44px;
  flex: none;
  padding: 0 6px;
  font: inherit;
  font-size: 18px;
  font-weight: 700;
  color: var(--woad);
  background: none;
  border: 0;
  border-radius: 8px;
  cursor: pointer;
}
.ask span {
  width: 30px;
  height: 30px;
  line-height: 27px;
  border: 1.5px solid currentcolor;
  border-radius: 50%;
}
.picture {
  width: 86px;
  height: 40px;
}
.sheet {
  padding: 22px 24px;
  background: var(--paper);
  border-radius: 8px;
}
.row {
  display: flex;
  justify-content: flex-end;
  gap: 12px;
  margin-top: 16px;
}
</style>
