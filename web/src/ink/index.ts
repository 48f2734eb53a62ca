export { drawStroke, type Ground } from './draw'
export { LivePen, type Point, type Sample } from './live'
export { lookUp, type PenPlan } from './plan'
export { readEvent, type Capture } from './capture'
