<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'

import { client, sentence, type Schemas } from '../api/client'
import { here, lookWhoIsHere } from '../frame/here'
import ActButton from '../kit/ActButton.vue'
import TextInput from '../kit/TextInput.vue'

/** The operator's access word and the makers' hand-in word: set anew here, and read by nobody. */
type Role = Schemas['NewWord']['role']
const words = shallowRef<Schemas['WordsShown'] | null>(null)
const typed = ref<Record<Role, string>>({ operator: '', maker: '' })
const trouble = ref('')
const ROLES: { role: Role; name: string }[] = [
  { role: 'operator', name: 'Access word of the operator' },
  { role: 'maker', name: 'Hand-in word of makers' },
]

onMounted(async () => {
  words.value = (await client.GET('/api/words')).data ?? null
  await lookWhoIsHere()
})

async function set(role: Role): Promise<void> {
  const { data, error } = await client.POST('/api/words', { body: { role, word: typed.value[role] } })
  trouble.value = data ? '' : sentence(error)
  if (!data) return
  words.value = data
  typed.value[role] = ''
}
</script>

<template>
  <p class="soft">{{ here?.elsewhere ? `Others reach it at ${here.elsewhere}.` : 'Only this machine is answered. Set both words, and start it with --host and an address of this machine, to let others in.' }}</p>
  <form v-for="{ role, name } in ROLES" :key="role" class="in-line" @submit.prevent="set(role)">
    <span>{{ name }} ({{ words?.[role] ? 'set' : 'not set' }})</span>
    <TextInput v-model="typed[role]" :label="name" :most="200" /><ActButton look="ink" submits>Set it</ActButton>
  </form>
  <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
</template>

<style scoped>
.soft { color: var(--soft-ink); font-size: 12px; }
</style>
