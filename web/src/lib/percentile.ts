/** A share of values lies below this, straight between neighbours; 0 of none. */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  if (!sorted.length) return 0
  const at = share * (sorted.length - 1)
  const low = Math.floor(at)
  return sorted[low]! + (sorted[Math.min(low + 1, sorted.length - 1)]! - sorted[low]!) * (at - low)
}
