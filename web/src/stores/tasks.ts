import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, Refusal, take, type Schemas } from '@/api/client'

type Job = Schemas['JobItem']
interface Task {
  job: Job
  /** What it does, and the station it was asked at. */
  words: string
  path: string
}

/** Long tasks of the server, each under a name; they go on and are told in the frame while other stations are shown. */
export const useTasks = defineStore('tasks', () => {
  const tasks = ref(new Map<string, Task>())

  /**
   * Follow a task to its end. Resolves with it when it is done, throws a Refusal when it was refused; undefined when
   * cancelled.
   */
  async function follow(name: string, words: string, path: string, started: Promise<Job>): Promise<Job | undefined> {
    const job = await started
    tasks.value.set(name, { job, words, path })
    const ended = await new Promise<Job>((resolve, reject) => {
      const source = new EventSource(`/api/jobs/${job.id}/events`)
      source.onmessage = (event: MessageEvent<string>) => {
        const told = JSON.parse(event.data) as Job
        if (tasks.value.get(name)?.job.id === job.id) tasks.value.set(name, { job: told, words, path })
        if (told.state === 'running') return
        source.close()
        resolve(told)
      }
      source.onerror = () => {
        source.close()
        reject(new Refusal('The server does not answer. Start the task again when it is back.', 0, 'away'))
      }
    }).finally(() => tasks.value.get(name)?.job.id === job.id && tasks.value.delete(name))
    if (ended.state === 'refused') throw new Refusal(ended.message, 400, 'refused')
    return ended.state === 'done' ? ended : undefined
  }

  const cancel = (name: string) => {
    const id = tasks.value.get(name)?.job.id
    return id && take(api.DELETE('/api/jobs/{job_id}', { params: { path: { job_id: id } } })).catch(() => undefined)
  }
  return { tasks, follow, cancel }
})
