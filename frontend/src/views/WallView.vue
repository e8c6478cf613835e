<script setup lang="ts">
import { mdiMagnify, mdiPlus } from '@mdi/js'
import { useWindowFocus, watchDebounced, whenever } from '@vueuse/core'
import { computed, onMounted, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ask, csrf, Refusal, sendFiles, type Schemas, type Ticket } from '../api/client'
import AppMark from '../ui/AppMark.vue'
import TicketCard from './TicketCard.vue'
import { say, sayWrong } from '../state/notice'
import ToggleButton from '../ui/ToggleButton.vue'

const router = useRouter()
const wall = shallowRef<Schemas['Wall'] | null>(null)
const search = ref('')
const page = ref(1)
const putAway = ref(false)
const deleting = shallowRef<Ticket | null>(null)
const taking = ref(false)
const name = ref('')
const unit = ref<'mm' | 'cm' | 'in'>((localStorage.getItem('unit') as 'mm') || 'mm')
const bundle = ref<HTMLInputElement | null>(null)
const covers = computed(() => {
  const n = wall.value?.count ?? 0
  const what = n === 1 ? '1 cover' : `${n} covers`
  return search.value ? `${what} found` : putAway.value ? `${what} in the drawer` : `${what} in hand`
})
const units = [
  { value: 'mm', title: 'millimetres' },
  { value: 'cm', title: 'centimetres' },
  { value: 'in', title: 'inches, in fractions' },
]

/** What was asked for last is shown, whichever answer comes last. */
let asked = 0
let retry: number | undefined
const AGAIN_MS = 3000
const away = ref(false)
async function load() {
  const own = ++asked
  try {
    const query = { search: search.value, page: page.value, put_away: putAway.value }
    const found = await ask('get', '/api/wall', { params: { query } })
    if (own !== asked) return
    wall.value = found
    away.value = false
  } catch (e) {
    if (own !== asked) return
    // a server that is away is asked again until it is back
    if (e instanceof Refusal && e.status === 0) {
      away.value = true
      window.clearTimeout(retry)
      retry = window.setTimeout(load, AGAIN_MS)
    } else sayWrong(e)
  }
}
onScopeDispose(() => window.clearTimeout(retry))
onMounted(() => {
  document.title = 'The wall · Ypsicline'
  return load()
})
whenever(useWindowFocus(), () => load())
watchDebounced(search, () => ((page.value = 1), load()), { debounce: 250 })
watch(putAway, () => ((page.value = 1), load()))

async function turnTo(to: number) {
  page.value = to
  await load()
  window.scrollTo({ top: 0 })
}

/** Taken off the wall, hung again, or deleted for good. */
async function act(ticket: Ticket, what: 'put away' | 'hang again' | 'delete') {
  const path = { params: { path: { job_id: ticket.id } } }
  try {
    if (what === 'put away') await ask('post', '/api/jobs/{job_id}/put-away', path)
    else if (what === 'hang again') await ask('delete', '/api/jobs/{job_id}/put-away', path)
    else await ask('delete', '/api/jobs/{job_id}', path)
    const done = { 'put away': 'is put away in the drawer', 'hang again': 'hangs on the wall again', delete: 'is deleted' }
    say(`“${ticket.name}” ${done[what]}.`)
  } catch (e) {
    sayWrong(e)
  }
  deleting.value = null
  await load()
}

/** Another job like this one, to go on from. */
async function copy(ticket: Ticket) {
  if (hanging.value) return
  hanging.value = true
  try {
    const job = await ask('post', '/api/jobs/{job_id}/copy', { params: { path: { job_id: ticket.id } } })
    await router.push({ name: 'job', params: { id: job.id, station: 'brief' } })
  } catch (e) {
    sayWrong(e)
  } finally {
    hanging.value = false
  }
}

async function signOut() {
  await fetch('/sign-out/', { method: 'POST', headers: { 'X-CSRFToken': csrf() } })
  window.location.assign('/sign-in/')
}

const hanging = ref(false)
async function takeIn() {
  if (hanging.value) return
  hanging.value = true
  try {
    localStorage.setItem('unit', unit.value)
    const job = await ask('post', '/api/jobs', { body: { name: name.value, unit: unit.value } })
    await router.push({ name: 'job', params: { id: job.id, station: 'brief' } })
  } catch (e) {
    sayWrong(e)
  } finally {
    hanging.value = false
  }
}

async function readBundle(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  try {
    const job = await sendFiles('/api/job-files', {}, { field: 'file', files: [file] })
    await router.push({ name: 'job', params: { id: job.id, station: job.next_step.station } })
  } catch (e) {
    sayWrong(e)
  }
}
</script>

<template>
  <main class="wall">
    <header>
      <AppMark />
      <h1>{{ wall?.workshop ?? 'Ypsicline' }}</h1>
      <span v-if="wall" class="soft" role="status">{{ covers }}</span>
      <span class="gap" />
      <v-text-field
        v-model="search"
        class="find"
        type="search"
        label="Find a ticket"
        :prepend-inner-icon="mdiMagnify"
        hide-details
        clearable
        maxlength="100"
        @click:clear="search = ''"
      />
      <ToggleButton :on="putAway" @click="putAway = !putAway">Drawer</ToggleButton>
      <v-btn to="/members">Workshop</v-btn>
      <v-btn to="/help">Help</v-btn>
      <v-btn v-if="wall && !wall.demo" @click="signOut">Sign out {{ wall.user }}</v-btn>
      <v-btn @click="bundle?.click()">Read a job file</v-btn>
      <input ref="bundle" type="file" accept=".json,application/json" hidden aria-label="Job file" @change="readBundle" />
      <v-btn color="primary" variant="flat" :prepend-icon="mdiPlus" @click="taking = true">Take in a job</v-btn>
    </header>
    <p v-if="away" class="away" role="status">
      The workshop’s server can’t be reached just now. {{ wall ? 'What you see is from before.' : '' }} It is tried again by itself.
    </p>
    <p v-if="wall && !wall.tickets.length && (search || putAway)" class="empty">
      {{ search ? `No ticket says “${search}”.` : 'The drawer is empty.' }}
    </p>
    <p v-else-if="wall && !wall.tickets.length" class="empty">
      No tickets hang here yet. Take in a job: say what is to be covered, photograph it beside a printed reference sheet, and the pattern
      follows.
    </p>
    <ul v-if="wall" class="tickets" aria-label="Tickets">
      <li v-for="ticket in wall.tickets" :key="ticket.id">
        <TicketCard :ticket="ticket" @changed="load" />
        <div class="acts">
          <template v-if="!putAway">
            <v-btn size="small" variant="text" :aria-label="`Copy ${ticket.name}`" @click="copy(ticket)">Copy</v-btn>
            <v-btn size="small" variant="text" :aria-label="`Put away ${ticket.name}`" @click="act(ticket, 'put away')">Put away</v-btn>
          </template>
          <template v-else>
            <v-btn size="small" variant="text" :aria-label="`Hang it again: ${ticket.name}`" @click="act(ticket, 'hang again')"
              >Hang it again</v-btn
            >
            <v-btn size="small" variant="text" :aria-label="`Delete ${ticket.name}`" @click="deleting = ticket">Delete</v-btn>
          </template>
        </div>
        <svg class="string" viewBox="0 0 16 42" width="16" height="42" aria-hidden="true">
          <path d="M8 0V30" stroke="var(--soft-ink)" stroke-width="2.4" />
          <circle cx="8" cy="35" r="5" fill="var(--ground)" stroke="var(--soft-ink)" stroke-width="1.6" />
        </svg>
      </li>
    </ul>
    <nav v-if="wall && wall.pages > 1" class="pages" aria-label="Pages of tickets">
      <v-btn :disabled="page === 1" @click="turnTo(page - 1)">Earlier</v-btn>
      <span>{{ page }} of {{ wall.pages }}</span>
      <v-btn :disabled="page === wall.pages" @click="turnTo(page + 1)">Later</v-btn>
    </nav>
    <v-dialog :model-value="!!deleting" max-width="460" @update:model-value="deleting = null">
      <v-card v-if="deleting" class="pa-6" title="Delete this job?">
        <p class="mb-6">
          “{{ deleting.name }}”, ticket {{ deleting.ticket }}, goes for good, with its outline, panels, photos and history. Save its job
          file first if it may be wanted again.
        </p>
        <div class="row">
          <v-btn @click="deleting = null">Cancel</v-btn
          ><v-btn color="error" variant="flat" @click="act(deleting, 'delete')">Delete it</v-btn>
        </div>
      </v-card>
    </v-dialog>
    <v-dialog v-model="taking" max-width="460">
      <v-card class="pa-6" title="Take in a job">
        <form @submit.prevent="takeIn">
          <v-text-field
            v-model="name"
            label="What is it called?"
            placeholder="Splash tray, wheel 3"
            autofocus
            class="mb-4"
            maxlength="80"
          />
          <v-select v-model="unit" :items="units" label="Measured in" class="mb-6" />
          <div class="row">
            <v-btn @click="taking = false">Cancel</v-btn
            ><v-btn type="submit" color="primary" variant="flat" :disabled="!name.trim()">Hang the ticket</v-btn>
          </div>
        </form>
      </v-card>
    </v-dialog>
  </main>
</template>

<style scoped>
.away {
  padding: 10px 16px;
  border-radius: 8px;
  background: var(--weld-pale);
}
.wall {
  padding: 8px 20px 40px;
}
header {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 52px;
  flex-wrap: wrap;
}
h1 {
  font-size: 20px;
}
.gap {
  flex: 1;
}
.tickets {
  list-style: none;
  padding: 0;
  margin: 6px 0 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  column-gap: 0;
  row-gap: 22px;
}
.tickets li {
  position: relative;
  padding: 36px 10px 0;
}
.tickets li::before {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  top: 14px;
  height: 10px;
  background: var(--rail);
}
.string {
  position: absolute;
  left: calc(50% - 8px);
  top: 8px;
  pointer-events: none;
}
.empty {
  max-width: 46ch;
  margin: 12vh auto;
  font-size: 20px;
  text-align: center;
}
.find {
  flex: 1 1 130px;
  max-width: 210px;
}
.acts {
  position: absolute;
  right: 8px;
  bottom: 1px;
}
.acts .v-btn {
  font-size: 13px;
  font-weight: 400;
  color: var(--soft-ink);
  text-decoration: underline;
}
.pages {
  display: flex;
  justify-content: center;
  align-items: center;
  gap: 16px;
  margin-top: 28px;
}
.row {
  display: flex;
  justify-content: flex-end;
  gap: 12px;
}
</style>
