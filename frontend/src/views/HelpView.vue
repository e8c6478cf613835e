<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { HELP, type HelpKey, type HelpPage } from '../logic/help'
import { TOLD } from '../logic/shortcuts'
import { beginGuide } from '../state/guide'
import { sayWrong } from '../state/notice'
import AppMark from '../ui/AppMark.vue'
import HelpText from '../ui/HelpText.vue'

document.title = 'Help · Ypsicline'
const router = useRouter()
const PARTS: readonly { title: string; pages: readonly HelpKey[] }[] = [
  { title: 'Shape', pages: ['photo', 'enter', 'true_up', 'tape', 'fold', 'paint', 'walk', 'point', 'old', 'steps'] },
  { title: 'Draft', pages: ['measures', 'allow', 'ease', 'take_in', 'open', 'mark', 'layer', 'join', 'fill', 'move', 'measure'] },
  { title: 'Check and Make', pages: ['check', 'make'] },
]
const pageOf = (key: HelpKey): HelpPage => HELP[key]
const beginning = ref(false)
async function begin() {
  beginning.value = true
  try {
    await router.push({ name: 'job', params: { id: await beginGuide(), station: 'shape' } })
  } catch (e) {
    sayWrong(e)
  } finally {
    beginning.value = false
  }
}
</script>

<template>
  <main class="help">
    <header>
      <AppMark />
      <h1>Help</h1>
      <v-btn to="/">The wall</v-btn>
    </header>
    <section class="first">
      <div>
        <h2>The first job, in five steps</h2>
        <p>From a photo of a splash tray, which comes along, to a print at true size. It can be left at any time.</p>
      </div>
      <v-btn color="primary" variant="flat" size="large" :loading="beginning" @click="begin">Begin</v-btn>
    </section>
    <p>
      Reference sheets: four <a href="/api/sheets.pdf?paper=a4&count=4">A4</a>, <a href="/api/sheets.pdf?paper=letter&count=4">Letter</a> or
      <a href="/api/sheets.pdf?paper=a3&count=4">A3</a>; for large work <a href="/api/sheets.pdf?paper=a4&count=12">all twelve</a>.
      <RouterLink to="/cameras">Calibrate your camera once</RouterLink>, and single photos become surer.
    </p>
    <section v-for="part in PARTS" :key="part.title" :aria-label="part.title">
      <h2 class="part">{{ part.title }}</h2>
      <div class="pages">
        <HelpText v-for="key in part.pages" :id="key" :key="key" :page="pageOf(key)" />
      </div>
    </section>
    <h2 class="part">Lengths</h2>
    <p>
      Type them as you would write them: 12 3/8, 12½, 3' 2 1/2", 1 1/2 yd, 31.4 cm, 1.2 m, 314. A bare number is in the job’s unit, which
      the button at the top changes. ≈ before a figure says that it is shown rounded; what was set stays exact.
    </p>
    <h2 class="part">Keys</h2>
    <dl>
      <template v-for="[key, what] in TOLD" :key="key"
        ><dt>{{ key }}</dt>
        <dd>{{ what }}</dd></template
      >
    </dl>
  </main>
</template>

<style scoped>
.help {
  max-width: 980px;
  margin: 0 auto;
  padding: 8px 20px 60px;
  display: flex;
  flex-direction: column;
  gap: 16px;
  font-size: 16px;
}
header {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 60px;
}
h1 {
  flex: 1;
  font-size: 26px;
}
.part {
  margin: 18px 0 10px;
  font-size: 22px;
}
.first {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  padding: 18px 22px;
  background: var(--tape);
  border-radius: 8px;
}
.pages {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
  gap: 28px 32px;
}
a {
  color: var(--woad);
  font-weight: 600;
}
dl {
  display: grid;
  grid-template-columns: minmax(90px, max-content) 1fr;
  gap: 8px 20px;
}
dt {
  font-weight: 700;
}
dd {
  margin: 0;
}
</style>
