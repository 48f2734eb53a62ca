// Keeps what the desk needs to be opened and written on while its server is not reached. Only over TLS: see main.ts.
const SHELL = 'gray-quill-shell'
const DESK = 'gray-quill-desk'
const MOST_KEPT = 300 // answers of the desk, the oldest go first
// a server that says nothing for so long is not reached; a picture of a large page may take its time
const [PAGE_MS, ANSWER_MS] = [4000, 30000]
const STREAMS = ['/api/news', '/api/mirror/news']
/** What is asked with a body, and answered the same as long as the body is. */
const PURE = ['/api/pen/plan']

self.addEventListener('install', (event) => {
  self.skipWaiting()
  event.waitUntil(keepShell())
})
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))

/** All files of the screens, so that each station opens. */
async function keepShell() {
  const cache = await caches.open(SHELL)
  const files = await (await fetch('/shell.json', { cache: 'no-store' })).json()
  const known = new Set((await cache.keys()).map((k) => new URL(k.url).pathname))
  const wanted = ['/', ...files]
  await Promise.all(wanted.filter((f) => f === '/' || !known.has(f)).map((f) => cache.add(f).catch(() => undefined)))
  for (const key of await cache.keys()) if (!wanted.includes(new URL(key.url).pathname)) await cache.delete(key)
}

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (url.origin !== self.location.origin || STREAMS.includes(url.pathname)) return
  if (/^\/(in|see|mirror|authority\.crt|api\/(room|stage|mirror))(\/|$)/.test(url.pathname)) return
  if (request.method === 'GET' && url.pathname.startsWith('/assets/')) event.respondWith(keptFirst(request))
  else if (request.mode === 'navigate') event.respondWith(page(request))
  else if (request.method === 'GET') event.respondWith(serverFirst(request, request))
  else if (request.method === 'POST' && PURE.includes(url.pathname)) event.respondWith(pure(request))
})

async function keptFirst(request) {
  const kept = await caches.match(request, { ignoreVary: true })
  if (kept) return kept
  const answer = await fetch(request)
  if (answer.ok) await (await caches.open(SHELL)).put(request, answer.clone())
  return answer
}

async function page(request) {
  try {
    const answer = await soon(request, PAGE_MS)
    if (answer.status === 401)
      await caches.delete(DESK) // signed out: nothing of the desk stays here
    else if (answer.ok) void refreshShell(answer.clone())
    return answer
  } catch {
    return (await caches.match('/', { ignoreVary: true })) ?? Response.error()
  }
}

/** A page that differs from the one that is kept belongs to newer screens. */
async function refreshShell(answer) {
  const cache = await caches.open(SHELL)
  const kept = await cache.match('/')
  const fresh = await answer.text()
  if (!kept || (await kept.text()) !== fresh) await keepShell()
}

async function serverFirst(request, key) {
  const cache = await caches.open(DESK)
  try {
    const answer = await soon(request, ANSWER_MS)
    if (answer.status === 401) await caches.delete(DESK)
    else if (answer.ok) {
      await cache.put(key, answer.clone())
      void trim(cache)
    }
    return answer
  } catch (error) {
    const kept = (await cache.match(key, { ignoreVary: true })) ?? (await caches.match(key, { ignoreVary: true }))
    if (kept) return asKept(kept)
    throw error
  }
}

/** The screens are told that this is what was last seen. */
function asKept(answer) {
  const headers = new Headers(answer.headers)
  headers.set('X-Kept', '1')
  return new Response(answer.body, { status: answer.status, statusText: answer.statusText, headers })
}

/** The answer of the server, or a rejection where it is not reached in time. */
function soon(request, ms) {
  const late = new AbortController()
  const timer = setTimeout(() => late.abort(), ms)
  return fetch(request, { signal: late.signal }).finally(() => clearTimeout(timer))
}

async function pure(request) {
  const bytes = await crypto.subtle.digest('SHA-256', await request.clone().arrayBuffer())
  const name = [...new Uint8Array(bytes)].map((b) => b.toString(16).padStart(2, '0')).join('')
  return serverFirst(request, new Request(`${request.url}?of=${name}`))
}

async function trim(cache) {
  const keys = await cache.keys()
  await Promise.all(keys.slice(0, Math.max(0, keys.length - MOST_KEPT)).map((k) => cache.delete(k)))
}
