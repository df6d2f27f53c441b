import { produce } from 'immer'
import { create } from 'zustand'
import { getScene, goToStep, redoScene, takeDocument, undoScene } from '../api/client'
import { keeper } from '../api/keeper'
import { LiveChannel } from '../api/live'
import type { Document, Kept, SceneState } from '../core/page.generated'
import { FrameCache, patienceMs, wanted } from '../core/frameCache'
import { listOf, type Kind } from '../core/remove'
import type { Direction, SaveQueue, Step } from '../core/saveQueue'
import { strictly } from '../core/strict'
import { emptyShot, type Message, type Shot } from '../core/wire'
import { drawnPath } from '../core/value'
import type { Bench } from './benchState'
import { useClock } from './clock'
import { useView } from './prefs'
import { anythingUnsaved, queueOf, queues } from './queues'

export type { Kind }
export type { Bench, Selection, Tool } from './benchState'

const noShot: Shot = emptyShot()

let live: LiveChannel | null = null

/** Bytes of frames that are kept. */
const frameBytes = 256 * 2 ** 20

/** Takes out the path that is being drawn. */
function withoutDrawn(d: Document) {
  const i = d.paths.findIndex((p) => p.id === drawnPath)
  if (i >= 0) d.paths.splice(i, 1)
}

/** When each missing frame of the newest answer was asked for. */
const asked = new Map<number, number>()

const frame = () => useClock.getState().frame

export const useBench = create<Bench>()((set, get) => {
  function receive(m: Message, doc: Document) {
    switch (m.kind) {
      case 'scene': {
        const meshes = m.meshes.size > 0 ? new Map([...get().meshes, ...m.meshes]) : get().meshes
        set({
          answer: { readout: m.readout, paths: m.shot.lines, doc, shot: m.shot },
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

  function show(doc: Document, fill: boolean) {
    // What was measured is of an older document from now on.
    if (fill) set({ checked: { ...get().checked, seen: 0, looked: 0 } })
    live?.edit(doc, frame(), fill)
  }

  function adopt(s: SceneState) {
    set({
      revision: s.revision,
      doc: s.doc,
      base: s.doc,
      kept: s.doc,
      undoLabel: s.undo,
      redoLabel: s.redo,
      savedAt: Date.now(),
      conflict: null,
      fault: null,
    })
    const first = s.doc.rigs[0]
    const { selected } = get()
    if (!selected || !listOf({ ...s.doc }, selected.kind).some((x) => x.id === selected.id)) {
      const path = s.doc.paths[0]
      set({
        selected: first ? { kind: 'rig', id: first.id } : path ? { kind: 'path', id: path.id } : null,
        point: null,
        grip: null,
      })
    }
    useClock.getState().setRange(s.doc.range.first, s.doc.range.last, s.doc.fps)
    show(s.doc, true)
  }

  /** Listens to what becomes of the open scene's edits. */
  function listen(q: SaveQueue) {
    const labels = (s: Kept) => {
      const unsaved = q.told().unsaved > 0
      set({ undoLabel: s.undo, redoLabel: s.redo, savedAt: Date.now(), ...(unsaved ? {} : { kept: get().base }) })
    }
    q.listen({
      told: (t) => set({ save: t.state, unsaved: t.unsaved, safe: t.safe, revision: t.revision, trouble: t.trouble }),
      kept: labels,
      stepped: (s) => (q.told().unsaved > 0 ? labels(s) : adopt(s)),
      conflict: (conflict) => set({ conflict }),
      refused: (p) => set({ fault: { detail: p.detail ?? 'The server refuses this.', faults: p.faults ?? [] } }),
    })
  }

  function step(way: Direction, call: Step) {
    get().cancel()
    const q = queues.get(get().id)
    if (!q || get().conflict) return
    if (get().save === 'refused') {
      get().putBack() // a refused edit was never kept: dropping it is the step back
      return
    }
    const back = way === 'undo' && q.takeBack()
    if (back) {
      const doc = back.doc ?? get().kept
      if (doc) showAgain(doc)
      return
    }
    if (get().save === 'offline') {
      get().say('The server does not answer: steps of the history wait until it does.')
      return
    }
    if (q.idle() && ((way === 'undo' && !get().undoLabel) || (way === 'redo' && !get().redoLabel))) return
    q.step(way, call)
  }

  /** Shows a document that was shown before. */
  function showAgain(doc: Document) {
    set({ doc, base: doc, fault: null })
    useClock.getState().setRange(doc.range.first, doc.range.last, doc.fps)
    show(doc, true)
  }

  return {
    id: '',
    revision: 0,
    doc: null,
    base: null,
    kept: null,
    undoLabel: '',
    redoLabel: '',
    save: 'saved',
    unsaved: 0,
    safe: true,
    trouble: '',
    savedAt: 0,
    connected: false,
    answer: null,
    meshes: new Map(),
    frames: new FrameCache(frameBytes),
    shown: [],
    shot: noShot,
    filled: false,
    checks: [],
    checked: { seen: 0, of: 0, looked: 0, waiting: [] },
    simulating: null,
    fault: null,
    conflict: null,
    notice: '',
    selected: null,
    also: [],
    point: null,
    grip: null,
    rollBead: null,
    openStep: 'spacing',
    panel: 'recipe',
    shownCheck: null,
    tool: { kind: 'none' },

    async open(id) {
      get().close()
      useView.setState({ alongside: false })
      set({
        id,
        doc: null,
        base: null,
        answer: null,
        frames: new FrameCache(frameBytes),
        shown: [],
        shot: noShot,
        checks: [],
        checked: { seen: 0, of: 0, looked: 0, waiting: [] },
        fault: null,
        save: 'saved',
        unsaved: 0,
        trouble: '',
        selected: null,
        point: null,
      })
      set({
        panel: 'recipe',
        shownCheck: null,
        tool: { kind: 'none' },
        conflict: null,
        notice: '',
        openStep: 'spacing',
      })
      const s = strictly<SceneState>('SceneState', await getScene(id))
      if (get().id !== id) return
      // Edits of this visit that are still on their way, or those that an earlier one left.
      const busy = queues.get(id)
      const all = busy && !busy.idle() ? [] : await keeper.list().catch(() => [])
      const left = all.findLast((u) => u.id === id && !u.alive)
      if (get().id !== id) return
      const q = queueOf(s)
      live = new LiveChannel(
        id,
        receive,
        (connected) => set({ connected }),
        (revision) => void queues.get(id)?.moved(revision),
        (why) => set({ fault: { detail: why, faults: [] } }),
      )
      useClock.getState().goTo(s.doc.range.first)
      adopt(s)
      const unsaved = left?.edits.at(-1)?.doc ?? q.last()
      if (unsaved) showAgain(unsaved)
      listen(q)
      if (left) {
        if (JSON.stringify(unsaved) === JSON.stringify(s.doc)) void keeper.drop(left.key)
        else if (left.revision === s.revision) {
          q.resume(left)
          get().say('Edits that were not saved on the last visit are being saved now.')
        } else q.contest(left, s)
      }
    },
    close() {
      live?.close()
      live = null
      queues.get(get().id)?.listen({}) // it goes on by itself
      useClock.getState().pause()
      set({ id: '', doc: null, meshes: new Map() })
    },
    select(selected) {
      set({ selected, also: [], point: null, rollBead: null, panel: 'recipe', shownCheck: null })
    },
    choose(s) {
      const { selected, also, select } = get()
      const all = selected ? [selected.id, ...also] : []
      if (selected?.kind !== s.kind || (all.length === 1 && all[0] === s.id)) {
        select(s)
        return
      }
      const [first, ...rest] = all.includes(s.id) ? all.filter((id) => id !== s.id) : [...all, s.id]
      select({ kind: s.kind, id: first! })
      set({ also: rest })
    },
    preview(change) {
      const { doc } = get()
      if (!doc) return
      const next = produce(doc, change)
      if (next === doc) return
      set({ doc: next })
      show(next, false)
    },
    cancel() {
      const { base, doc } = get()
      if (base === doc || !base) return
      set({ doc: base, fault: null, save: queues.get(get().id)?.told().state ?? 'saved' })
      show(base, true)
    },
    commit(label) {
      const { base } = get()
      // What is being drawn meanwhile is shown, not kept.
      const doc = get().doc && produce(get().doc!, withoutDrawn)
      if (!doc || doc === base) return
      set({ doc })
      set({ base: doc, fault: null })
      useClock.getState().setRange(doc.range.first, doc.range.last, doc.fps)
      show(doc, true)
      queues.get(get().id)?.push({ doc, label })
    },
    edit(label, change) {
      const { doc } = get()
      if (!doc) return
      // This very state may have been previewed; it has not been kept yet.
      set({ doc: produce(doc, change) })
      get().commit(label)
    },
    undo: () => step('undo', undoScene),
    redo: () => step('redo', redoScene),
    goTo: (seq) => step('to', (id, revision) => goToStep(id, revision, seq)),
    putBack() {
      const { kept } = get()
      if (!kept) return
      queues.get(get().id)?.putBack()
      set({ save: 'saved' })
      showAgain(kept)
    },
    keepMine() {
      const { conflict, doc, base } = get()
      if (!conflict || !doc) return
      set({ conflict: null, base: doc === base ? base : doc })
      queues.get(get().id)?.keepMine(conflict, doc)
    },
    takeTheirs() {
      const { conflict } = get()
      if (!conflict) return
      queues.get(get().id)?.takeTheirs(conflict)
      adopt(conflict)
    },
    async keepAsNew() {
      const { doc, id } = get()
      if (!doc) return ''
      const s = await takeDocument(new Blob([JSON.stringify(doc)]))
      queues.get(id)?.putBack()
      return s.id
    },
    say(notice) {
      set({ notice })
    },
    startDrawing(over) {
      set({ tool: { kind: 'draw', points: [], view: useView.getState().view, over } })
    },
    startPins: (rig) => set({ tool: { kind: 'pins', rig } }),
    stopSimulating: () => live?.stop(),
    goOnSimulating() {
      const { doc } = get()
      if (doc) show(doc, true)
    },

    startEdges(fixture) {
      set({ tool: { kind: 'edges', fixture, way: 'loop', at: null, chain: null } })
    },
  }
})

/** Shows what has come for the play head. */
function refresh() {
  const { frames, shot } = useBench.getState()
  const now = frames.get(frame())
  if (now && now !== shot) useBench.setState({ shown: now.pieces, shot: now })
}

useClock.subscribe((now, before) => {
  if (now.frame === before.frame) return
  refresh()
  want(now.frame)
})

/** Asks for a missing frame. While playing, and once the first fill has ended, it asks for those behind it too. */
function want(n: number) {
  const { frames, filled, simulating, answer } = useBench.getState()
  if (!answer) return
  const { first, last, playing } = useClock.getState()
  const now = performance.now()
  const missing = (f: number) => !frames.has(f) && now - (asked.get(f) ?? -Infinity) >= patienceMs
  const list =
    playing && filled && !simulating ? wanted((f) => frames.has(f), asked, n, first, last, now) : missing(n) ? [n] : []
  if (live?.look(list)) for (const f of list) asked.set(f, now)
}

useClock.setState({ ready: (f) => useBench.getState().frames.has(f), want })

// A tab that is closed asks first while something is not on the server.
if (typeof window !== 'undefined') {
  window.addEventListener('beforeunload', (e) => {
    const { doc, base } = useBench.getState()
    if (anythingUnsaved() || doc !== base) e.preventDefault()
  })
}

// Before its first point a drawing takes the plane of the view that is chosen.
useView.subscribe((now, before) => {
  const { tool } = useBench.getState()
  if (now.view !== before.view && tool.kind === 'draw' && tool.points.length === 0 && now.view !== 'free') {
    useBench.setState({ tool: { ...tool, view: now.view } })
  }
})
