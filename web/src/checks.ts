/**
 * What tests and the bench run in a browser without the screens: the live-ink engine and the functions that only
 * compute.
 */
export * from './lib/numbers'
export * from './ink'
export * from './lib/scale'
export * from './lib/typed'
export { callsForAttention, inWords } from './lib/readings'
export { summary } from './stations/lag/timings'
export { largest, placeAt, verdictOf } from './stations/palm/decisions'
export { nearestSetting, tradeOption } from './stations/pen/trade-chart'
