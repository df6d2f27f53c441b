/**
 * The frames that have come, within a number of bytes: when there are more, those go that
 * are farthest from the play head, counted on from it round the range, for they are played
 * last.
 */
export class FrameCache<T> {
  private frames = new Map<number, { value: T; bytes: number }>()
  private bytes = 0

  constructor(private readonly most: number) {}

  get(frame: number): T | undefined {
    return this.frames.get(frame)?.value
  }

  has(frame: number): boolean {
    return this.frames.has(frame)
  }

  get size(): number {
    return this.frames.size
  }

  clear() {
    this.frames.clear()
    this.bytes = 0
  }

  /** Takes a frame in. head is the play head, of a range from first to last. */
  put(frame: number, value: T, bytes: number, head: number, first: number, last: number) {
    this.bytes += bytes - (this.frames.get(frame)?.bytes ?? 0)
    this.frames.set(frame, { value, bytes })
    if (this.bytes <= this.most) return
    const count = last - first + 1
    const ahead = (f: number) => (f < first || f > last ? count : (((f - head) % count) + count) % count)
    for (const f of [...this.frames.keys()].sort((a, b) => ahead(b) - ahead(a))) {
      if (this.bytes <= this.most || f === head) break
      this.bytes -= this.frames.get(f)!.bytes
      this.frames.delete(f)
    }
  }
}

/** How many frames ahead of the play head are asked for. */
export const lookAhead = 24

/** A frame that was asked for is asked for again when it has not come after so long. */
export const patienceMs = 1500

/**
 * Which frames to ask for so that playing goes on: those of the next ones, round the range,
 * that are neither here nor asked for a short while ago.
 */
export function wanted(
  has: (frame: number) => boolean,
  asked: Map<number, number>,
  head: number,
  first: number,
  last: number,
  now: number,
): number[] {
  const count = last - first + 1
  const out: number[] = []
  for (let k = 0; k < Math.min(lookAhead, count); k++) {
    const f = first + ((((head - first + k) % count) + count) % count)
    if (has(f) || now - (asked.get(f) ?? -Infinity) < patienceMs) continue
    out.push(f)
  }
  return out
}
