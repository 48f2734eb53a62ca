/** The papers a wash is tried on; the last is the sheet's own. */
export const PAPERS = [
  { name: 'white', colour: '#ffffff' },
  { name: 'cream', colour: '#fbf6e6' },
  { name: 'grey', colour: '#d9dad7' },
  { name: 'dark', colour: '#2b3036' },
]

export function papersFor(own: string): { name: string; colour: string }[] {
  const known = PAPERS.find((p) => p.colour === own.toLowerCase())
  return known
    ? PAPERS.map((p) => (p === known ? { ...p, name: `${p.name}, yours` } : p))
    : [...PAPERS, { name: 'yours', colour: own }]
}

/** How many passes words stand, from the first that drowns them. */
export function holds(first: number | null, most: number): string {
  if (first === null) return `over ${most} passes`
  if (first === 0) return 'weak on its own'
  return first === 1 ? 'not one pass' : `${first - 1} ${first === 2 ? 'pass' : 'passes'}`
}
