/** One declared quantity, as the core describes it. */
export interface Field {
  name: string
  kind: 'number' | 'integer' | 'choice' | 'flag' | 'colour' | 'text' | 'points' | 'heights'
  label: string
  help: string
  unit: string
  options: string[]
  low: number | null
  high: number | null
  step: number | null
  default: unknown
}
