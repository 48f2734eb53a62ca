/** A sheet's name, and which of its pages where it has several. */
export const pageName = (s: { name: string; page: number; pages: number }) =>
  s.pages > 1 ? `${s.name}, page ${s.page}` : s.name
/** A pen's name without its size. */
export const short = (name: string) => name.replace(/\s[\d.]+$/, '')
