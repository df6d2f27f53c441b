import type { Cycle, CycleReadout } from './page.generated'

/** The feet as they are found, so that one of them can be changed. */
export const feetOf = (c: CycleReadout): NonNullable<Cycle['feet']> =>
  c.feet.map((f) => ({
    joint: f.joint,
    ...(f.tip ? { tip: true } : {}),
    joints: f.joints,
    plants: f.plants,
  }))

/** The beginning (0) or the end (1) of a plant of a foot, in rounds. */
export type PlantEnd = { foot: number; plant: number; end: 0 | 1; value: number }

/** As near to what is asked for as a plant allows: it lasts two hundredths of a round, or more, up to a whole one. */
export function clampEnd(cycle: CycleReadout, g: PlantEnd): PlantEnd {
  const p = cycle.feet[g.foot]!.plants[g.plant]!
  const v = g.end
    ? Math.min(Math.max(g.value, p[0] + 0.02), p[0] + 1)
    : Math.min(Math.max(g.value, Math.max(0, p[1] - 1)), p[1] - 0.02, 0.999)
  return { ...g, value: Math.round(v * 1000) / 1000 }
}

/** The plants of a foot, one of them with another end. */
export const plantsWith = (cycle: CycleReadout, foot: number, g: PlantEnd | null): [number, number][] =>
  cycle.feet[foot]!.plants.map((p, k): [number, number] =>
    g?.foot === foot && g.plant === k ? (g.end ? [p[0], g.value] : [g.value, p[1]]) : [p[0], p[1]],
  )

/** What the history says of it. */
export const plantLabel = (cycle: CycleReadout, g: PlantEnd) =>
  `${cycle.feet[g.foot]!.joint} stands ${g.end ? 'until' : 'from'} ${g.value}`

/** Puts it into the cycle of a document, with its feet as they are found if they were not set yet. */
export function setEnd(c: Cycle, cycle: CycleReadout, g: PlantEnd) {
  c.feet ??= feetOf(cycle)
  c.feet[g.foot]!.plants = plantsWith(cycle, g.foot, g)
}

/** Rounds at a frame between two, counted from the first; those of the range's ends beyond them. */
export function roundsAt(rounds: number[], frame: number): number {
  const at = Math.min(Math.max(frame, 0), rounds.length - 1)
  const i = Math.min(Math.floor(at), rounds.length - 2)
  return i < 0 ? (rounds[0] ?? 0) : rounds[i]! + (rounds[i + 1]! - rounds[i]!) * (at - i)
}

/** Names without the last words that all of them share: of "left lower" and "right lower", left and right. */
export function withoutEnding(list: string[]): string[] {
  if (list.length < 2) return list
  const words = list.map((name) => name.split(/(?<=[ _.:-])/))
  const least = Math.min(...words.map((w) => w.length))
  let n = 0
  while (n < least - 1 && words.every((w) => w.at(-1 - n) === words[0]!.at(-1 - n))) n++
  return words.map((w) =>
    w
      .slice(0, w.length - n)
      .join('')
      .replace(/[ _.:-]$/, ''),
  )
}
