import type { Nine } from '../api/client'

/** The nine points of a box, as they are listed. */
export const NINE: Nine[] = ['top left', 'top', 'top right', 'left', 'middle', 'right', 'bottom left', 'bottom', 'bottom right']
