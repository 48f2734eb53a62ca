import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { useDesk } from './desk'
import { useLineup } from './lineup'

export const STEPS = {
  write: { does: 'Write the same line', station: '/sheet' },
  feel: { does: 'Say how it feels in the hand', station: '' },
  palm: { does: 'Do the palm drills', station: '/palm' },
  film: { does: 'Film the ink and read the film', station: '/lag' },
} as const
export type StepName = keyof typeof STEPS
const ORDER = Object.keys(STEPS) as StepName[]
const FEEL = 'feel'

interface Guided {
  pens: string[]
  /** Of each pen and step, as `pen step`: done, or left out. */
  told: Record<string, 'done' | 'left out'>
  /** How each pen feels, 0 to 100. */
  felt: Record<string, number>
}

/** The same steps in the same order for every pen that is lined up; it is kept in this browser until it is ended. */
export const useGuided = defineStore('guided', () => {
  const desk = useDesk()
  const lineup = useLineup()
  const run = useLocalStorage<Guided | null>('gray-quill-guided', null, { serializer: StorageSerializers.object })
  const every = computed(() => (run.value?.pens ?? []).flatMap((pen) => ORDER.map((step) => ({ pen, step }))))
  const told = (pen: string, step: StepName) => run.value?.told[`${pen} ${step}`]
  /** What comes next; nothing once all is told. */
  const next = computed(() => every.value.find(({ pen, step }) => !told(pen, step)))
  const nameOf = (pen: string) => desk.desk?.pens.find((p) => p.id === pen)?.recipe.name ?? pen

  const begin = () => (run.value = { pens: [...lineup.chosen], told: {}, felt: {} })
  function tell(how: 'done' | 'left out') {
    const [now, at] = [run.value, next.value]
    if (now && at) run.value = { ...now, told: { ...now.told, [`${at.pen} ${at.step}`]: how } }
  }
  /** The last step once more. */
  function back() {
    const last = every.value.filter(({ pen, step }) => told(pen, step)).at(-1)
    if (!run.value || !last) return
    const left = { ...run.value.told }
    delete left[`${last.pen} ${last.step}`]
    run.value = { ...run.value, told: left }
  }
  function felt(pen: string, points: number) {
    if (run.value) run.value = { ...run.value, felt: { ...run.value.felt, [pen]: points } }
    score()
  }
  /** How pens feel becomes a criterion of one's own, for all candidates with them. */
  function score() {
    const points = run.value?.felt ?? {}
    const of = lineup.run?.candidates.filter((c) => c.pen_id in points) ?? []
    if (!of.length) return
    const now = lineup.scored.find((o) => o.name === FEEL)
    const all = { ...now?.points, ...Object.fromEntries(of.map((c) => [c.key, points[c.pen_id]!])) }
    lineup.scored = [
      ...lineup.scored.filter((o) => o.name !== FEEL),
      { name: FEEL, points: all, note: now?.note || 'in a guided run' },
    ]
    if (!now) lineup.add(FEEL)
  }

  watch(() => lineup.run, score)

  /** What was the same for all, and what was not, for the ranking and the report. */
  const words = computed(() => {
    if (!run.value || !Object.keys(run.value.told).length) return []
    return ORDER.map((step) => {
      const how = (of: 'done' | 'left out' | undefined) =>
        run.value!.pens.filter((pen) => told(pen, step) === of).map(nameOf)
      const [left, open] = [how('left out'), how(undefined)]
      if (!left.length && !open.length) return `guided run, ${step}: done for all`
      const missing = [left.length && `left out for ${left.join(', ')}`, open.length && `open for ${open.join(', ')}`]
      return `guided run, ${step}: ${missing.filter(Boolean).join('; ')}`
    })
  })

  return { run, next, told, nameOf, begin, tell, back, felt, words, end: () => (run.value = null) }
})
