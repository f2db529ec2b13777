<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'

import { client, sentence } from '../api/client'
import ActButton from '../kit/ActButton.vue'
import TextInput from '../kit/TextInput.vue'

/** Where somebody from elsewhere says the word that lets them in. */
const router = useRouter()
const word = ref('')
const trouble = ref('')

async function enter(): Promise<void> {
  const { data, error } = await client.POST('/api/enter', { body: { word: word.value } })
  trouble.value = data ? '' : sentence(error)
  if (data) await router.push(data.role === 'operator' ? '/queue' : '/')
}
</script>

<template>
  <main class="enter">
    <h1><img src="/mark.svg" alt="" width="22" height="22" /> Lean Notch</h1>
    <p>Say the word that you were given: as the operator, or to hand something in.</p>
    <form class="in-line" @submit.prevent="enter"><TextInput v-model="word" label="The word" :most="200" /><ActButton look="main" submits>Come in</ActButton></form>
    <p v-if="trouble" class="why" role="alert">{{ trouble }}</p>
  </main>
</template>

<style scoped>
.enter { max-width: 520px; margin: 0 auto; padding: 80px 24px; display: grid; gap: 16px; }
h1 { display: flex; align-items: center; gap: 10px; }
</style>
