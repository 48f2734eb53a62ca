/** The stations that work, in the order people work. */
export const STATIONS = [
  { path: 'sheet', word: 'Sheet', load: () => import('./sheet/SheetStation.vue') },
  { path: 'pen', word: 'Pen', load: () => import('./pen/PenStation.vue') },
  { path: 'wash', word: 'Wash', load: () => import('./wash/WashStation.vue') },
  { path: 'panels', word: 'Panels', load: () => import('./panels/PanelsStation.vue') },
  { path: 'lag', word: 'Lag', load: () => import('./lag/LagStation.vue') },
  { path: 'palm', word: 'Palm', load: () => import('./palm/PalmStation.vue') },
  { path: 'line-up', word: 'Line-up', load: () => import('./lineup/LineupStation.vue') },
  { path: 'cabinet', word: 'Cabinet', load: () => import('./cabinet/CabinetStation.vue') },
]
