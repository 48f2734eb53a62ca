import { defineStore } from 'pinia'
import { api, take, type PenItem, type Recipe } from '@/api/client'
import type { PenPlan } from '@/ink'

/** Pen plans by pen revision and paper colour; a revision never changes, so neither does its plan. */
export const usePlans = defineStore('plans', () => {
  const known = new Map<string, Promise<PenPlan>>()

  const compile = async (recipe: Recipe, paperColour: string): Promise<PenPlan> => {
    const answer = await take(api.POST('/api/plan', { body: { recipe, paper_colour: paperColour } }))
    return answer.plan as unknown as PenPlan
  }

  function planOf(pen: PenItem, paperColour: string): Promise<PenPlan> {
    const key = `${pen.id}/${pen.revision}/${paperColour}`
    let plan = known.get(key)
    if (!plan) {
      plan = compile(pen.recipe, paperColour)
      plan.catch(() => known.delete(key))
      known.set(key, plan)
    }
    return plan
  }

  return { planOf, compile }
})
