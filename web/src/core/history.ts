import type { HistoryStep } from './page.generated'

/** An entry of the history as it is shown. */
export interface Entry {
  seq: number
  made: string
  current: boolean
  text: string
  /** How many steps it stands for. */
  steps: number
}

/** What a step changed, with the values where it is one: "Row: count 50 to 51". */
function words(what: string, was?: string, is?: string): string {
  if (!was) return `${what} ${is ?? ''}`
  return is ? `${what} ${was} to ${is}` : `${what} taken out, was ${was}`
}

/**
 * The steps of a history, the newest first. Steps in a row that changed one and the same value
 * are one entry, from what the first began with to what the last made of it; the present step
 * is one of its own.
 */
export function folded(history: HistoryStep[]): Entry[] {
  const out: (Entry & { step: HistoryStep })[] = []
  for (const s of history) {
    const last = out.at(-1)
    if (last?.step.field && s.field === last.step.field && !last.current && !s.current) {
      last.steps++
      last.step = { ...last.step, was: s.was }
      last.text = words(last.step.what ?? '', s.was, last.step.is)
      continue
    }
    out.push({
      seq: s.seq,
      made: s.made,
      current: s.current,
      text: s.field ? words(s.what ?? '', s.was, s.is) : s.label,
      steps: 1,
      step: s,
    })
  }
  return out.map(({ seq, made, current, text, steps }) => ({ seq, made, current, text, steps }))
}
