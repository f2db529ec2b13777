import { useLocalStorage } from '@vueuse/core'

/** Whether the handbook lies beside the work; it stays as it was left. */
export const handbookIsOpen = useLocalStorage('handbook-open', false)
