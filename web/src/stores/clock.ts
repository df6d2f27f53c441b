import { create } from 'zustand'

/** The play head. Playing waits for frames that have not come yet, and asks for them. */
interface Clock {
  frame: number
  first: number
  last: number
  fps: number
  playing: boolean
  setRange: (first: number, last: number, fps: number) => void
  goTo: (frame: number) => void
  step: (by: number) => void
  play: () => void
  pause: () => void
  toggle: () => void
  /** Whether a frame is here, and what asks for those that are not: set by who holds the frames. */
  ready: (frame: number) => boolean
  want: (frame: number) => void
}

let ticking = 0
let began = 0
let beganAt = 0

export const useClock = create<Clock>()((set, get) => {
  function tick(now: number) {
    const { first, last, fps, playing, frame } = get()
    if (!playing) return
    ticking = requestAnimationFrame(tick)
    const count = last - first + 1
    const passed = Math.floor(((now - began) / 1000) * fps)
    const next = first + ((((beganAt - first + passed) % count) + count) % count)
    if (next === frame) return
    if (!get().ready(next)) {
      // Not here yet: hold the picture and take up the time from here.
      get().want(next)
      began = now
      beganAt = frame
      return
    }
    set({ frame: next })
  }
  return {
    frame: 1,
    first: 1,
    last: 96,
    fps: 24,
    playing: false,
    ready: () => true,
    want: () => undefined,
    setRange(first, last, fps) {
      const { frame } = get()
      set({ first, last, fps, frame: Math.min(Math.max(frame, first), last) })
      began = performance.now()
      beganAt = get().frame
    },
    goTo(frame) {
      const { first, last } = get()
      const f = Math.min(Math.max(Math.round(frame), first), last)
      began = performance.now()
      beganAt = f
      set({ frame: f })
    },
    step(by) {
      const { frame, first, last } = get()
      const count = last - first + 1
      get().goTo(first + ((((frame - first + by) % count) + count) % count))
    },
    play() {
      if (get().playing) return
      began = performance.now()
      beganAt = get().frame
      set({ playing: true })
      ticking = requestAnimationFrame(tick)
    },
    pause() {
      cancelAnimationFrame(ticking)
      set({ playing: false })
    },
    toggle() {
      if (get().playing) get().pause()
      else get().play()
    },
  }
})
