/** A pen's name without its size. */
export const short = (name: string) => name.replace(/\s[\d.]+$/, '')
