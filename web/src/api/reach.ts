import { ref } from 'vue'

/** Whether the server was out of reach when it was last asked. */
export const away = ref(false)

/** How long it is left alone before it is asked again (ms). */
const PAUSE = 1000

/**
 * Asks the server. While it is away, a question is asked again until it is answered. A change is not: it may be
 * stored already, so the maker is told and looks at how things stand.
 */
export async function reach(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const request = new Request(input, init)
  // Where others are let in, a change bears what the page was given for it.
  const token = /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1]
  if (token && request.method !== 'GET') request.headers.set('X-CSRFToken', token)
  for (;;) {
    try {
      const answer = await fetch(request.clone())
      away.value = false
      if (answer.status === 401 && !location.pathname.startsWith('/enter')) location.assign('/enter')
      return answer
    } catch (fault) {
      if (request.signal.aborted) throw fault
      away.value = true
      if (request.method !== 'GET') {
        void reach('/mark.svg', { cache: 'no-store' })
        throw new Error('The server does not answer, so this may not be stored. Look at it again when it is back.', { cause: fault })
      }
      await new Promise((resolve) => setTimeout(resolve, PAUSE))
    }
  }
}
