import { computed } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useTasks } from '@/stores/tasks'

/** A long task asked at a station, under a name; it goes on while others are looked at, and is met again here. */
export function useJob(name: string, words: string) {
  const tasks = useTasks()
  const route = useRoute()
  const job = computed(() => tasks.tasks.get(name)?.job)
  const follow = (started: Promise<Schemas['JobItem']>) => tasks.follow(name, words, String(route.name), started)
  return { job, busy: computed(() => !!job.value), follow, cancel: () => tasks.cancel(name) }
}
