/** How a tool sounds on paper: the middle of its band of noise, how narrow the band is, and how loud it is at most. */
export const TOOLS = {
  pencil: { words: 'a pencil', hz: 2400, q: 0.7, loud: 0.5 },
  nib: { words: 'a nib', hz: 4200, q: 1.6, loud: 0.3 },
  felt: { words: 'a felt tip', hz: 900, q: 0.6, loud: 0.35 },
} as const
export type Tool = keyof typeof TOOLS

const FULL_MM_S = 200 // no louder from here on
const FOLLOWS_S = 0.02
const ENDS_S = 0.03
const SECONDS = 2 // of noise, gone round

/** How loud, 0..1, and how high the sound of a nib is that goes so fast, pressed so hard, on so rough a tooth. */
export function soundOf(tool: Tool, speedMmS: number, force: number, tooth: number): { gain: number; hz: number } {
  const { hz, loud } = TOOLS[tool]
  const pace = Math.min(1, Math.max(0, speedMmS) / FULL_MM_S)
  const press = Math.min(1, Math.max(0, force))
  const gain = loud * Math.sqrt(pace) * (0.25 + 0.75 * press) * (0.6 + 0.4 * Math.min(1, Math.max(0, tooth)))
  return { gain, hz: hz * (0.7 + 0.6 * pace) }
}

/** The sound of one nib: noise of its own making, shaped while it goes, still as soon as it lifts. */
export class WritingSound {
  private context: AudioContext | undefined
  private band: BiquadFilterNode | undefined
  private level: GainNode | undefined

  /** The nib goes: it is made on the first way, which browsers take for leave to sound. */
  goes(tool: Tool, volume: number, speedMmS: number, force: number, tooth: number): void {
    this.begin()
    const { gain, hz } = soundOf(tool, speedMmS, force, tooth)
    const now = this.context!.currentTime
    this.band!.Q.value = TOOLS[tool].q
    this.band!.frequency.setTargetAtTime(hz, now, FOLLOWS_S)
    this.level!.gain.setTargetAtTime(gain * volume, now, FOLLOWS_S)
    document.documentElement.dataset.sounding = (gain * volume).toFixed(3)
  }
  stops(): void {
    if (!this.context) return
    this.level!.gain.cancelScheduledValues(this.context.currentTime)
    this.level!.gain.setTargetAtTime(0, this.context.currentTime, ENDS_S / 3)
    document.documentElement.dataset.sounding = '0'
  }
  close(): void {
    void this.context?.close().catch(() => undefined)
    this.context = undefined
    delete document.documentElement.dataset.sounding
  }

  private begin(): void {
    if (this.context) {
      if (this.context.state === 'suspended') void this.context.resume()
      return
    }
    const context = new AudioContext({ latencyHint: 'interactive' })
    const noise = context.createBuffer(1, SECONDS * context.sampleRate, context.sampleRate)
    const samples = noise.getChannelData(0)
    for (let k = 0; k < samples.length; k += 1) samples[k] = 2 * Math.random() - 1
    const source = new AudioBufferSourceNode(context, { buffer: noise, loop: true })
    this.band = new BiquadFilterNode(context, { type: 'bandpass' })
    this.level = new GainNode(context, { gain: 0 })
    source.connect(this.band).connect(this.level).connect(context.destination)
    source.start()
    this.context = context
  }
}
