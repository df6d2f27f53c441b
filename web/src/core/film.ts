// What a film is made of: its frames, and the moments that each is the mean of.

export const filmKinds = ['webm', 'webm-av1', 'mp4', 'apng', 'png'] as const
export type FilmKind = (typeof filmKinds)[number]

export interface FilmPlan {
  first: number
  last: number
  /** How often a loop is gone through. */
  rounds: number
  /** How many moments are put together to one picture; 1: none, it is sharp. */
  moments: number
  /** The share of a frame's time during which light falls in. */
  shutter: number
}

/** The frames of a film in their order; a loop's film holds none twice, so that it plays on. */
export function framesOf({ first, last, rounds }: FilmPlan): number[] {
  const round = Array.from({ length: last - first + 1 }, (_, i) => first + i)
  return Array.from({ length: rounds }, () => round).flat()
}

/** The moments of one frame, evenly over the time that the shutter is open, its middle at the frame. */
export function momentsOf(frame: number, { moments, shutter }: FilmPlan): number[] {
  if (moments <= 1) return [frame]
  return Array.from({ length: moments }, (_, k) => frame + shutter * ((k + 0.5) / moments - 0.5))
}

/** A number with as many digits as the last of a row. */
export const padded = (n: number, last: number) => String(n).padStart(String(last).length, '0')
