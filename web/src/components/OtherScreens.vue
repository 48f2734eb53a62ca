<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useIntervalFn } from '@vueuse/core'
import { onMounted, ref } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDesk } from '@/stores/desk'
import PopOver from './PopOver.vue'
import MirrorForm from './MirrorForm.vue'

/** How another screen comes to this desk, which are in, and how one is put out again. */
const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const room = ref<Schemas['RoomReply']>()
const shown = ref(false)
const act = (work: () => Promise<Schemas['RoomReply']>) =>
  desk.attempt(async () => {
    room.value = await work()
  })
onMounted(() => look())
/** The link that counts now, and the one after it once a screen came in. */
const look = () => act(() => take(api.GET('/api/room')))
const show = () => {
  shown.value = true
  look()
}
useIntervalFn(() => shown.value && look(), 2000)
const renew = () => act(() => take(api.POST('/api/room/key')))
const putOut = (id: string) =>
  act(() => take(api.DELETE('/api/room/screens/{browser_id}', { params: { path: { browser_id: id } } })))
const when = (iso: string) =>
  new Date(iso).toLocaleString([], {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    hour12: false,
  })
</script>

<template>
  <PopOver title="Other screens" label="Other screens" @close="emit('close')">
    <div class="screens-sheet">
      <RouterLink to="/this-screen" class="word-button" @click="emit('close')"
        >Check this screen, and say how it writes</RouterLink
      >
      <template v-if="room && !room.open">
        <p>
          This desk answers this machine alone. To write on a tablet or an e-ink slate in the same network, stop it and
        </p>
        <p><code>gray-quill serve --host 0.0.0.0</code></p>
        <p>It then prints a link and a code to be scanned, and shows both here.</p>
      </template>
      <template v-else-if="room">
        <ol class="steps">
          <li v-if="room.tls">
            <p>Once for each screen: let it trust this desk. Scan, and follow the page.</p>
            <img :src="room.way_in_code" alt="The code of the page that helps a screen in" width="150" height="150" />
            <p class="small address">{{ room.way_in }}</p>
          </li>
          <li>
            <p>Come in. A link lets one screen in, once; the next stands here then.</p>
            <button v-if="!shown" type="button" class="word-button" @click="show">Show the link</button>
            <template v-else>
              <img :src="room.link_code" alt="The code of the link" width="150" height="150" />
              <p class="small address">{{ room.link }}</p>
              <p class="small address">Or open {{ room.way_in }} and type {{ room.key }}</p>
            </template>
          </li>
        </ol>
        <p v-if="room.tls" class="small address">Its certificate, SHA-256: {{ room.fingerprint }}</p>
        <p v-else class="small harm">Without TLS: reports of the pen arrive one a frame, and the key goes plainly.</p>
        <h3 class="book">In now</h3>
        <ul class="screens">
          <li v-for="{ browser, here } in room.screens" :key="browser.id">
            <span>
              {{ browser.name }}{{ here ? ', this one' : '' }}
              <span class="small">from {{ browser.address }}, seen {{ when(browser.last_seen) }}</span>
            </span>
            <button v-if="!here" type="button" class="word-button" @click="putOut(browser.id)">Sign out</button>
          </li>
        </ul>
        <DoWord :does="renew">Renew the key</DoWord>
      </template>
      <MirrorForm v-if="desk.sheet" @done="emit('close')" />
    </div>
  </PopOver>
</template>

<style scoped>
.screens-sheet {
  display: grid;
  gap: 10px;
  width: 100%;
}
h3 {
  font-size: 17px;
  font-style: italic;
}
.steps {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: 18px;
  padding-left: 18px;
}
img {
  display: block;
  margin: 6px 0;
  image-rendering: pixelated;
}
.address {
  overflow-wrap: anywhere;
}
.screens {
  display: grid;
  gap: 6px;
  list-style: none;
}
.screens li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  min-height: var(--target);
}
.screens .small {
  display: block;
}
.harm {
  color: var(--harm);
}
</style>
