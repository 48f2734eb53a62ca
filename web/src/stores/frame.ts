import { useLocalStorage, useMediaQuery } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Tool } from '@/lib/writing-sound'

export const PLACES = ['foot', 'head', 'left', 'right'] as const
export type Place = (typeof PLACES)[number]
export const SIZES = { usual: 1, larger: 1.15, largest: 1.3 } as const

/** How the frame is arranged in this browser: it belongs to the device it stands on. */
export const useFrame = defineStore('frame', () => {
  const place = useLocalStorage<Place>('gray-quill-roll-place', 'foot')
  const folded = useLocalStorage('gray-quill-roll-folded', false)
  /** The roll folds by itself as soon as the nib is down. */
  const foldsWhileWriting = useLocalStorage('gray-quill-roll-folds', false)
  const marginFolded = useLocalStorage('gray-quill-margin-folded', false)
  const hidden = useLocalStorage<string[]>('gray-quill-stations-hidden', [])
  const words = useLocalStorage<keyof typeof SIZES>('gray-quill-words', 'usual')
  /** The screen does not go dark while somebody writes. */
  const awake = useLocalStorage('gray-quill-awake', true)
  /** At night the page is shown dark: only shown, nothing of it changes. */
  const darkPage = useLocalStorage('gray-quill-dark-page', false)
  /** Writing sounds like a tool on paper, so loud in %. */
  const sound = useLocalStorage<Tool | 'off'>('gray-quill-sound', 'off')
  const volume = useLocalStorage('gray-quill-volume', 40)
  /** Which way the next page lies: swiped sideways to, or gone on to past the foot. */
  const follows = useLocalStorage<'downward' | 'sideways'>('gray-quill-pages-follow', 'downward')
  const writing = ref(false)
  const nibDown = ref(false)
  const narrow = useMediaQuery('(max-width: 900px)')
  /** A telephone: the frame folds to a line each, so that the page has the screen. */
  const small = useMediaQuery('(max-width: 560px)')
  /** What of the folded frame is open, over the page. */
  const unfolded = ref<'sentence' | 'roll' | 'stations' | 'margin' | 'page'>()
  const turn = (part: NonNullable<typeof unfolded.value>) =>
    (unfolded.value = unfolded.value === part ? undefined : part)

  const rollPlace = computed<Place>(() => (narrow.value && place.value !== 'head' ? 'foot' : place.value))
  const rollFolded = computed(() => folded.value || (foldsWhileWriting.value && writing.value))
  /** The whole screen for the desk, and back. */
  function fullScreen() {
    if (document.fullscreenElement) void document.exitFullscreen()
    else void document.documentElement.requestFullscreen?.().catch(() => undefined)
  }
  /** Back with one press, also in the middle of writing. */
  function unfold() {
    folded.value = writing.value = false
  }
  return {
    fullScreen,
    unfold,
    awake,
    darkPage,
    follows,
    sound,
    volume,
    place,
    folded,
    foldsWhileWriting,
    marginFolded,
    hidden,
    words,
    writing,
    nibDown,
    small,
    unfolded,
    turn,
    rollPlace,
    rollFolded,
  }
})
