import { useEventSource } from '@vueuse/core'
import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { api, Refusal, take, type Schemas } from '@/api/client'

type Job = Schemas['JobItem']

/**
 * A long task of the server: followed as it tells its progress, cancelled on wish or when the screen that asked is
 * gone.
 */
export function useJob() {
  const job = shallowRef<Job>()
  const events = ref<string>()
  const { data, error, close } = useEventSource(events, [], { immediate: false })
  let settle: { resolve: (job: Job) => void; reject: (error: Error) => void } | undefined

  watch(data, (told) => {
    if (!told) return
    job.value = JSON.parse(told) as Job
    if (job.value.state !== 'running') settle?.resolve(job.value)
  })
  watch(error, (broken) => {
    if (broken && running())
      settle?.reject(new Refusal('The server does not answer. Start the task again when it is back.', 0, 'away'))
  })

  /**
   * Follow a task to its end. Resolves with the task when it is done, throws a Refusal when it was refused; undefined
   * when cancelled.
   */
  async function follow(started: Promise<Job>): Promise<Job | undefined> {
    job.value = await started
    const ended = await new Promise<Job>((resolve, reject) => {
      settle = { resolve, reject }
      events.value = `/api/jobs/${job.value!.id}/events`
    }).finally(() => {
      close()
      events.value = undefined
    })
    if (ended.state === 'refused') throw new Refusal(ended.message, 400, 'refused')
    return ended.state === 'done' ? ended : undefined
  }

  const running = () => job.value?.state === 'running'
  const cancel = () =>
    running()
      ? take(api.DELETE('/api/jobs/{job_id}', { params: { path: { job_id: job.value!.id } } })).catch(() => undefined)
      : undefined
  onScopeDispose(() => void cancel())
  return { job, follow, cancel }
}
