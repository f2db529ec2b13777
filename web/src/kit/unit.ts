import { ref } from 'vue'

import type { Unit } from '../api/client'

/** The unit that the maker works in: fields show and read bare numbers in it. The open project sets it. */
export const unitShown = ref<Unit>('mm')
