import type { Schemas } from '@/api/client'

type Control = Schemas['Control']

/** Whether a control does nothing as yet because another one has to be set first, as the core declares it. */
export function waitsForAnother(field: Control, all: Control[], valueOf: (name: string) => unknown): boolean {
  if (!field.needs) return false
  const [name, of] = field.needs.split('=') as [string, string?]
  const on = valueOf(name)
  if (of) return !of.split(',').includes(String(on))
  const other = all.find((f) => f.name === name)
  return on === false || on === 0 || (other?.kind === 'choice' && on === other.options[0])
}
