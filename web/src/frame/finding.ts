import { ref } from 'vue'

/** Whether something is looked for: by the key or the word that every page has for it. */
export const finding = ref(false)
