import type { Schemas } from '@/api/client'

export type TradePoint = Schemas['TradePoint']
interface Colours {
  accent: string
  ink: string
  graphite: string
  rule: string
  card: string
}
const DASHES: Record<string, 'solid' | number[]> = {
  'one-euro': 'solid',
  follow: [7, 4],
  leash: [2, 3],
  window: [10, 3, 2, 3],
}

/**
 * The steadying chart as plain data: how much of a shake is left on a slow line against drag, a curve for each method,
 * the kept point and the one in use.
 */
export function tradeOption(
  points: TradePoint[],
  now: TradePoint | undefined,
  kept: TradePoint | undefined,
  c: Colours,
) {
  const methods = [...new Set(points.map((p) => p.method))]
  const furthest = Math.max(40, Math.min(150, ...[Math.max(...points.map((p) => p.drag_ms))]))
  const drawn = (m: string) => points.filter((p) => p.method === m && p.drag_ms <= furthest * 1.05)
  const apart = labelsApart(methods.map((m) => drawn(m).at(-1)?.shake_left ?? 0))
  const axis = {
    nameTextStyle: { color: c.graphite, fontSize: 13 },
    axisLabel: { color: c.graphite, fontSize: 13 },
    axisLine: { show: true, lineStyle: { color: c.ink } },
    splitLine: { show: false },
  }
  return {
    animation: false,
    textStyle: { fontFamily: getComputedStyle(document.body).fontFamily },
    grid: { left: 44, right: 62, top: 30, bottom: 42 },
    xAxis: {
      ...axis,
      type: 'value' as const,
      name: 'drag, ms',
      nameLocation: 'middle' as const,
      nameGap: 28,
      min: 0,
      max: furthest,
    },
    yAxis: {
      ...axis,
      type: 'value' as const,
      name: 'shake left, %',
      min: 0,
      max: 100,
      interval: 25,
      axisLabel: { ...axis.axisLabel, formatter: (v: number) => v.toFixed(0) },
    },
    series: [
      ...methods.map((m, i) => ({
        type: 'line' as const,
        name: m,
        showSymbol: false,
        smooth: 0.2,
        clip: true,
        data: points
          .filter((p) => p.method === m && p.drag_ms <= furthest * 1.05)
          .map((p) => [p.drag_ms, 100 * p.shake_left]),
        lineStyle: {
          color: m === now?.method ? c.accent : c.graphite,
          width: m === now?.method ? 3 : 1.5,
          type: DASHES[m] ?? 'solid',
        },
        endLabel: {
          show: true,
          formatter: m,
          offset: [0, apart[i]!],
          color: m === now?.method ? c.accent : c.graphite,
          fontSize: 13,
          backgroundColor: c.card,
        },
      })),
      ...(kept
        ? [
            {
              type: 'scatter' as const,
              name: 'kept',
              symbol: 'circle',
              symbolSize: 9,
              itemStyle: { color: c.card, borderColor: c.graphite, borderWidth: 1.5 },
              data: [[kept.drag_ms, 100 * kept.shake_left]],
            },
          ]
        : []),
      ...(now
        ? [
            {
              type: 'scatter' as const,
              name: 'now',
              symbol: 'circle',
              symbolSize: 18,
              itemStyle: { color: c.card, borderColor: c.accent, borderWidth: 3 },
              data: [[now.drag_ms, 100 * now.shake_left]],
              z: 5,
            },
          ]
        : []),
    ],
  }
}

const PLOT_PX = 132 // height of the plot, 100 % of a shake
const LINE_PX = 15

/** How far down each curve's name moves, px, so that none lies on another; the ends are shares 0..1. */
function labelsApart(ends: number[]): number[] {
  const moves = ends.map(() => 0)
  let last = -Infinity
  for (const i of ends.map((_, k) => k).sort((a, b) => ends[b]! - ends[a]!)) {
    const at = (1 - ends[i]!) * PLOT_PX
    const to = Math.max(at, last + LINE_PX)
    moves[i] = to - at
    last = to
  }
  return moves
}

/** The setting on some curve nearest to a place in the chart, in units of each axis' length. */
export function nearestSetting(
  points: TradePoint[],
  drag: number,
  left: number,
  spanMs: number,
  spanLeft: number,
): { method: string; amount: number } | undefined {
  let best: { method: string; amount: number } | undefined
  let least = Infinity
  points.forEach((a, i) => {
    const b = points[i + 1]
    if (!b || b.method !== a.method) return
    for (let s = 0; s <= 1; s += 0.1) {
      const d = Math.hypot(
        (a.drag_ms + (b.drag_ms - a.drag_ms) * s - drag) / spanMs,
        (a.shake_left + (b.shake_left - a.shake_left) * s - left) / spanLeft,
      )
      if (d < least) {
        least = d
        best = { method: a.method, amount: Math.round((a.amount + (b.amount - a.amount) * s) * 10) / 10 }
      }
    }
  })
  return best
}
