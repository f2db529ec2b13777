<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence } from '../api/client'
import { here, lookWhoIsHere } from '../frame/here'
import ActButton from '../kit/ActButton.vue'
import TextInput from '../kit/TextInput.vue'

/** Where somebody from elsewhere says the word that lets them in, and where makers are on a list, their name. */
const router = useRouter()
const name = ref('')
const word = ref('')
const trouble = ref('')
const byName = computed(() => here.value?.by_name ?? false)
onMounted(lookWhoIsHere)

async function enter(): Promise<void> {
  const { data, error } = await client.POST('/api/enter', { body: { word: word.value, name: byName.value ? name.value : null } })
  trouble.value = data ? '' : sentence(error)
  if (!data) return
  here.value = data
  await router.push(data.role === 'operator' ? '/queue' : '/')
}
</script>

<template>
  <main class="enter">
    <h1><img src="/mark.svg" alt="" width="22" height="22" /> Lean Notch</h1>
    <p v-if="byName">Type the name and the word of your card. The operator comes in without a name.</p>
    <p v-else>Say the word that you were given: as the operator, or to hand something in.</p>
    <form :class="byName ? 'card' : 'in-line'" @submit.prevent="enter">
      <label v-if="byName"><span>Your name</span><TextInput v-model="name" label="Your name" :most="200" /></label>
      <label v-if="byName"><span>Your word</span><TextInput v-model="word" label="Your word" :most="200" /></label>
      <TextInput v-else v-model="word" label="The word" :most="200" />
      <ActButton look="main" submits>Come in</ActButton>
    </form>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  </main>
</template>

<style scoped>
.enter { max-width: 520px; margin: 0 auto; padding: 80px 24px; display: grid; gap: 16px; }
h1 { display: flex; align-items: center; gap: 10px; }
.card { display: grid; gap: 10px; justify-items: start; max-width: 340px; padding: 18px 20px; border: 1px solid var(--rule); background: var(--paper); }
label { display: grid; gap: 3px; width: 100%; }
</style>
