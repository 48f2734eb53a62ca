import { defineStore } from 'pinia'
import { api, take, type PenItem, type Recipe, type Schemas } from '@/api/client'
import type { PenPlan } from '@/ink'

/** Pen plans by pen revision and paper; a revision never changes, so neither does its plan. */
type Paper = Schemas['Paper']

export const usePlans = defineStore('plans', () => {
  const known = new Map<string, Promise<PenPlan>>()

  const compile = async (recipe: Recipe, paper_colour: string, paper: Paper | null = null): Promise<PenPlan> => {
    return take(api.POST('/api/pen/plan', { body: { recipe, paper_colour, paper } }))
  }

  function planOf(pen: PenItem, paper: Paper): Promise<PenPlan> {
    const key = `${pen.id}/${pen.revision}/${JSON.stringify(paper)}`
    let plan = known.get(key)
    if (!plan) {
      plan = compile(pen.recipe, paper.colour!, paper)
      plan.catch(() => known.delete(key))
      known.set(key, plan)
    }
    return plan
  }

  return { planOf, compile }
})
