import type { StateCreator } from 'zustand'
import { LiveChannel } from '../api/live'
import type { Document } from '../core/page.generated'
import { FrameCache, patienceMs, wanted } from '../core/frameCache'
import { emptyShot, type Message, type Shot } from '../core/wire'
import type { AnswerState, Bench } from './benchState'
import { useClock } from './clock'
import { queues } from './queues'
import { steady } from './steady'

/** Bytes of frames that are kept. */
const frameBytes = 256 * 2 ** 20

/** What is known of a scene before the server has answered. */
const nothingKnown = () => ({
  answer: null,
  meshes: new Map(),
  frames: new FrameCache<Shot>(frameBytes),
  shown: [],
  shot: emptyShot(),
  filled: false,
  checks: [],
  checked: { seen: 0, of: 0, looked: 0, waiting: [] },
  simulating: null,
})

const frame = () => useClock.getState().frame

/** The part of the store that the server fills: pictures, frames and checks. */
export const answerPart: StateCreator<Bench, [], [], AnswerState> = (set, get) => {
  let live: LiveChannel | null = null
  /** When each missing frame of the newest answer was asked for. */
  const asked = new Map<number, number>()

  function receive(m: Message, doc: Document) {
    switch (m.kind) {
      case 'scene': {
        const meshes = m.meshes.size > 0 ? new Map([...get().meshes, ...m.meshes]) : get().meshes
        set({
          answer: { readout: steady(get().answer?.readout, m.readout), paths: m.shot.lines, doc, shot: m.shot },
          meshes,
          frames: new FrameCache(frameBytes),
          filled: false,
          simulating: null,
          fault: null,
          // A state that could not be shown was only passed on the way, as while dragging.
          ...(get().save === 'refused' ? { save: queues.get(get().id)?.told().state ?? 'saved' } : {}),
        })
        asked.clear()
        take(m.frame, m.shot, m.bytes)
        refresh()
        if (m.frame !== frame()) want(frame())
        break
      }
      case 'frame':
        take(m.frame, m.shot, m.bytes) // in place: a frame a message must not copy the cache
        refresh()
        break
      case 'checks':
        set({
          checked: m.checks.seen
            ? { seen: m.checks.seen, of: m.checks.of, looked: m.checks.looked, waiting: m.checks.waiting }
            : { ...get().checked, looked: m.checks.looked },
          ...(m.checks.seen ? { checks: m.checks.results ?? [] } : {}),
        })
        break
      case 'fault':
        set({ fault: m.fault, save: 'refused' })
        break
      case 'simulating':
        set({ simulating: m.simulating.done < m.simulating.of ? m.simulating : null })
        break
      case 'filled':
        set({ filled: true })
    }
  }

  /** Keeps a frame that has come. */
  function take(n: number, shot: Shot, bytes: number) {
    const { first, last } = useClock.getState()
    asked.delete(n)
    get().frames.put(n, shot, bytes, frame(), first, last)
  }

  /** Shows what has come for the play head. */
  function refresh() {
    const { frames, shot } = get()
    const now = frames.get(frame())
    if (now && now !== shot) set({ shown: now.pieces, shot: now })
  }

  /** Asks for a missing frame. While playing, and once the first fill has ended, it asks for those behind it too. */
  function want(n: number) {
    const { frames, filled, simulating, answer } = get()
    if (!answer) return
    const { first, last, playing } = useClock.getState()
    const now = performance.now()
    const missing = (f: number) => !frames.has(f) && now - (asked.get(f) ?? -Infinity) >= patienceMs
    const list =
      playing && filled && !simulating
        ? wanted((f) => frames.has(f), asked, n, first, last, now)
        : missing(n)
          ? [n]
          : []
    if (live?.look(list)) for (const f of list) asked.set(f, now)
  }

  useClock.subscribe((now, before) => {
    if (now.frame === before.frame) return
    refresh()
    want(now.frame)
  })
  useClock.setState({ ready: (f) => get().frames.has(f), want })

  return {
    ...nothingKnown(),
    connected: false,
    connect(id, moved) {
      live = new LiveChannel(
        id,
        receive,
        (connected) => set({ connected }),
        moved,
        (why) => set({ fault: { detail: why, faults: [] } }),
      )
    },
    disconnect() {
      live?.close()
      live = null
      set(nothingKnown())
    },
    show(doc, fill) {
      // What was measured is of an older document from now on.
      if (fill) set({ checked: { ...get().checked, seen: 0, looked: 0 } })
      live?.edit(doc, frame(), fill)
    },
    stopSimulating: () => live?.stop(),
    goOnSimulating() {
      const { doc } = get()
      if (doc) get().show(doc, true)
    },
  }
}
