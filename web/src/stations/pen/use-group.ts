import { computed, ref, watch } from 'vue'
import { useDesk } from '@/stores/desk'

/** Which controls of the pen are shown: the plain dials or one of the groups. Each roll remembers which of the two. */
export function useGroup() {
  const desk = useDesk()
  const roll = computed(() => desk.desk?.rolls.find((r) => r.name === desk.desk?.roll))
  const group = ref(roll.value?.plain ? 'plain' : 'press')
  const groups = computed(() => [
    'plain',
    'pen',
    ...Object.entries(desk.desk?.recipe_fields ?? {})
      .filter(([, fields]) => fields.some((f) => f.options.length !== 1))
      .map(([name]) => name),
  ])
  watch(
    () => group.value === 'plain',
    (plain) => {
      if (!desk.desk || !roll.value || roll.value.plain === plain) return
      const rolls = desk.desk.rolls.map((r) => (r.name === desk.desk!.roll ? { ...r, plain } : r))
      void desk.attempt(() => desk.keepDesk({ rolls }))
    },
  )
  watch(
    () => roll.value?.name,
    () => {
      if (roll.value?.plain) group.value = 'plain'
      else if (group.value === 'plain') group.value = 'press'
    },
  )
  return { group, groups }
}
