import { onScopeDispose, shallowRef } from 'vue'
import { api, Refusal, take, type Schemas } from '@/api/client'

type Job = Schemas['JobItem']

/**
 * A long task of the server: followed as it tells its progress, cancelled on wish or when the screen that asked is
 * gone.
 */
export function useJob() {
  const job = shallowRef<Job>()
  let source: EventSource | undefined

  /**
   * Follow a task to its end. Resolves with the task when it is done, throws a Refusal when it was refused; undefined
   * when cancelled.
   */
  async function follow(started: Promise<Job>): Promise<Job | undefined> {
    job.value = await started
    const id = job.value.id
    const ended = await new Promise<Job>((resolve, reject) => {
      source = new EventSource(`/api/jobs/${id}/events`)
      source.onmessage = (event) => {
        job.value = JSON.parse(event.data as string) as Job
        if (job.value.state !== 'running') resolve(job.value)
      }
      source.onerror = () => {
        if (job.value?.state === 'running')
          reject(new Refusal('The server does not answer. Start the task again when it is back.', 0))
      }
    }).finally(() => source?.close())
    if (ended.state === 'refused') throw new Refusal(ended.message, 400)
    return ended.state === 'done' ? ended : undefined
  }

  const running = () => job.value?.state === 'running'
  const cancel = () =>
    running()
      ? take(api.DELETE('/api/jobs/{job_id}', { params: { path: { job_id: job.value!.id } } })).catch(() => undefined)
      : undefined
  onScopeDispose(() => {
    void cancel()
    source?.close()
  })
  return { job, follow, cancel }
}
