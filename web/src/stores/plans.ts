import { defineStore } from 'pinia'
import { api, take, takeFile, type Recipe, type Schemas } from '@/api/client'
import { hasSurface, takeSurface, type PenPlan } from '@/ink'

/** Pen plans by recipe and paper, the last ones that were asked for. */
type Paper = Schemas['Paper']

export const usePlans = defineStore('plans', () => {
  const known = new Map<string, Promise<PenPlan>>()
  const MOST = 60

  const compile = async (
    recipe: Recipe,
    paper_colour: string,
    paper: Paper | null = null,
    plain = false,
  ): Promise<PenPlan> => {
    const plan = await take(api.POST('/api/pen/plan', { body: { recipe, paper_colour, paper, plain } }))
    return ready(plan)
  }

  /** A plan whose surfaces are here. */
  async function ready(plan: PenPlan): Promise<PenPlan> {
    const { surface, heights, crumbs } = plan.grain ?? {}
    const needed = [heights ? undefined : surface, crumbs?.surface]
    for (const name of needed)
      if (name && !hasSurface(name))
        takeSurface(name, new Uint8Array(await (await takeFile(`/api/pen/surfaces/${name}`)).arrayBuffer()))
    return plan
  }

  /** plain: in plain ink, where the pen can be drawn so. */
  function planOf(recipe: Recipe, paper: Paper, plain = false): Promise<PenPlan> {
    const key = JSON.stringify([recipe, paper, plain])
    const plan = known.get(key) ?? compile(recipe, paper.colour!, paper, plain)
    plan.catch(() => known.delete(key))
    known.delete(key)
    known.set(key, plan)
    if (known.size > MOST) known.delete(known.keys().next().value!)
    return plan
  }

  return { planOf, compile, ready }
})
