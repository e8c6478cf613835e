<script setup lang="ts">
import { mdiAccountPlusOutline } from '@mdi/js'
import { onMounted, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { ask, type Schemas } from '../api/client'
import AppMark from '../ui/AppMark.vue'
import { say, sayWrong } from '../state/notice'

/** Who belongs to the workshop; its owner invites members and takes them off. */
type Workshop = Schemas['WorkshopView']
type Member = Schemas['MemberView']
const router = useRouter()
const workshop = shallowRef<Workshop | null>(null)
const invitation = shallowRef<Schemas['InvitationView'] | null>(null)
const asked = shallowRef<{ member: Member; what: 'remove' | 'hand over' } | null>(null)

async function load() {
  workshop.value = await ask('get', '/api/workshop')
}
async function tried(how: () => Promise<void>) {
  try {
    await how()
  } catch (e) {
    sayWrong(e)
  }
}
const invite = () =>
  tried(async () => {
    invitation.value = await ask('post', '/api/workshop/invitations')
    await load()
  })
const takeBack = () =>
  tried(async () => {
    workshop.value = await ask('delete', '/api/workshop/invitations')
    invitation.value = null
  })
async function copy() {
  await navigator.clipboard.writeText(invitation.value?.url ?? '')
  say('Copied.')
}
const confirm = () =>
  tried(async () => {
    if (!asked.value) return
    const { member, what } = asked.value
    asked.value = null
    const path = { params: { path: { member_id: member.id } } }
    if (what === 'hand over') workshop.value = await ask('put', '/api/workshop/members/{member_id}/owner', path)
    else {
      await ask('delete', '/api/workshop/members/{member_id}', path)
      await (member.is_you ? router.push('/') : load())
    }
  })
const day = (at: string) => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })
onMounted(() => {
  document.title = 'Workshop · Ypsicline'
  return tried(load)
})
</script>

<template>
  <main v-if="workshop">
    <header>
      <AppMark />
      <h1>{{ workshop.name }}</h1>
      <span class="gap" /><v-btn to="/house">House rules and cloths</v-btn><v-btn to="/cameras">Cameras</v-btn
      ><v-btn to="/">The wall</v-btn>
    </header>
    <div class="station">
      <section class="paper-sheet" aria-label="Members">
        <h2>Members</h2>
        <article v-for="m in workshop.members" :key="m.id">
          <p>
            <b>{{ m.name }}</b><span class="soft">{{ m.is_owner ? ' · owner' : '' }}{{ m.is_you ? ' · you' : '' }}</span>
          </p>
          <div v-if="!m.is_owner" class="acts">
            <v-btn v-if="workshop.is_yours" size="small" @click="asked = { member: m, what: 'hand over' }">Make owner</v-btn>
            <v-btn v-if="workshop.is_yours || m.is_you" size="small" @click="asked = { member: m, what: 'remove' }">{{
              m.is_you ? 'Leave the workshop' : 'Remove'
            }}</v-btn>
          </div>
        </article>
        <p class="soft">Every member sees and changes all jobs of the workshop.</p>
        <p v-if="workshop.has_password"><a href="/password/">Change your password</a></p>
      </section>
      <aside v-if="workshop.is_yours" class="paper-sheet">
        <h2>Invite somebody</h2>
        <p>Write an invitation and hand its address to one person. It serves once, within a week.</p>
        <v-btn color="primary" variant="flat" size="large" :prepend-icon="mdiAccountPlusOutline" @click="invite">Write an invitation</v-btn>
        <div v-if="invitation" class="address">
          <p>
            <b>{{ invitation.url }}</b>
          </p>
          <p class="soft">Serves until {{ day(invitation.until) }}. It isn’t shown again.</p>
          <v-btn size="small" @click="copy">Copy it</v-btn>
        </div>
        <p v-if="workshop.invitations">
          {{ workshop.invitations === 1 ? 'One invitation is' : `${workshop.invitations} invitations are` }} open.
          <v-btn size="small" @click="takeBack">Withdraw</v-btn>
        </p>
      </aside>
    </div>
    <v-dialog :model-value="!!asked" max-width="460" @update:model-value="asked = null">
      <v-card
        v-if="asked"
        class="pa-6"
        :title="
          asked.what === 'hand over'
            ? `Make ${asked.member.name} the owner?`
            : asked.member.is_you
              ? 'Leave the workshop?'
              : `Remove ${asked.member.name}?`
        "
      >
        <p class="mb-6">
          {{
            asked.what === 'hand over'
              ? 'You stay a member; only they can then invite people and remove them.'
              : 'The jobs stay. To come back takes an invitation.'
          }}
        </p>
        <div class="row"><v-btn @click="asked = null">No</v-btn><v-btn color="primary" variant="flat" @click="confirm">Yes</v-btn></div>
      </v-card>
    </v-dialog>
  </main>
</template>

<style scoped src="../bench/station.css"></style>
<style scoped src="./page.css"></style>
<style scoped>
.acts,
.row {
  display: flex;
  align-items: center;
  gap: 12px;
}
.row {
  justify-content: flex-end;
}
article {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  min-height: 52px;
  border-bottom: 1px solid var(--hairline);
}
.address {
  display: grid;
  gap: 8px;
  justify-items: start;
  overflow-wrap: anywhere;
}
</style>
