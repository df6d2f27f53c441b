import { produce } from 'immer'
import { create } from 'zustand'
import { getScene, redoScene, saveScene, takeDocument, undoScene, goToStep, type EdgeWay } from '../api/client'
import { keeper } from '../api/keeper'
import { LiveChannel } from '../api/live'
import type {
  Document,
  EdgeChain,
  Kept,
  Readout,
  Refusal,
  Result,
  SceneState,
  Simulating,
} from '../core/page.generated'
import { FrameCache, patienceMs, wanted } from '../core/frameCache'
import { listOf, type Kind } from '../core/remove'
import { SaveQueue, type Direction, type SaveState, type Step, type Unsaved } from '../core/saveQueue'
import { emptyShot, type MeshData, type Message, type PathLine, type Pieces, type Shot } from '../core/wire'
import { drawnPath } from '../core/value'
import { useClock } from './clock'
import { useView, type ViewName } from './prefs'

export type { Kind }
export interface Selection {
  kind: Kind
  id: string
}
export type Panel = 'recipe' | 'check' | 'deliver' | 'ground' | 'film'

/** What the person is doing in the view besides looking. */
export type Tool =
  | { kind: 'none' }
  /** Points are set by clicking in the plane of a view, or on a fixture. */
  | {
      kind: 'draw'
      points: [number, number, number][]
      view: ViewName
      over?: string
      /** Where the next point would be, and what it would go to. */
      at?: [number, number, number]
      to?: string
    }
  /** An edge of a fixture is pointed at; the chain that goes on from it is shown. */
  /** Points of a rig's cloth are picked. */
  | { kind: 'pins'; rig: string }
  | { kind: 'edges'; fixture: string; way: EdgeWay; at: [number, number, number] | null; chain: EdgeChain | null }

/** The picture that the server made of the newest edit it has answered. */
export interface Answer {
  readout: Readout
  /** The paths' drawings in their own spaces; those that are deformed as in this frame. */
  paths: PathLine[]
  /** The frame that came with it. */
  shot: Shot
  /** The document that this is the picture of. */
  doc: Document
}

export interface Bench {
  id: string
  revision: number
  doc: Document | null
  /** The document as it was before what is being dragged or typed now. */
  base: Document | null
  /** The last document that the server has kept. */
  kept: Document | null
  undoLabel: string
  redoLabel: string
  save: SaveState
  /** Edits that the server has not kept yet. */
  unsaved: number
  /** What is unsaved would outlive a reload. */
  safe: boolean
  /** Why the server cannot keep anything; empty when it can, or does not answer. */
  trouble: string
  savedAt: number
  connected: boolean
  answer: Answer | null
  meshes: Map<string, MeshData>
  frames: FrameCache<Shot>
  /** The pieces at the play head; the last ones known until those have come. */
  shown: Pieces[]
  /** All that differs from frame to frame, as it is there. */
  shot: Shot
  filled: boolean
  checks: Result[]
  /** At how many frames of the range the checks have looked, and how far a look at all has come. */
  checked: { seen: number; of: number; looked: number }
  /** How far the simulation is that frames wait for; null where none do. */
  simulating: Simulating | null
  fault: Refusal | null
  conflict: SceneState | null
  notice: string
  selected: Selection | null
  /** Ids of other things of the same kind that are chosen with it. */
  also: string[]
  point: number | null
  /** The chosen bead of roll of the chosen rig. */
  rollBead: number | null
  openStep: string
  panel: Panel
  shownCheck: string | null
  tool: Tool
  open: (id: string) => Promise<void>
  close: () => void
  select: (s: Selection | null) => void
  /** Chooses one more thing of the kind that is chosen, or one less. */
  choose: (s: Selection) => void
  /** Shows a change without keeping it yet, as while dragging. */
  preview: (change: (d: Document) => void) => void
  /** Forgets what was previewed. */
  cancel: () => void
  /** Keeps what is shown as one step of the history. */
  commit: (label: string) => void
  edit: (label: string, change: (d: Document) => void) => void
  undo: () => void
  redo: () => void
  goTo: (seq: number) => void
  /** Drops edits that were refused and shows the last document that was right. */
  putBack: () => void
  keepMine: () => void
  takeTheirs: () => void
  /** Makes a scene of its own of what is shown, as when the scene was deleted elsewhere; its id. */
  keepAsNew: () => Promise<string>
  say: (notice: string) => void
  /** Draws in the plane of the view, or on a fixture. */
  startDrawing: (over?: string) => void
  startEdges: (fixture: string) => void
  /** Points of a cloth are picked that hold it. */
  startPins: (rig: string) => void
  /** Gives up the simulation, or goes on with it. */
  stopSimulating: () => void
  goOnSimulating: () => void
}

const noShot: Shot = emptyShot()

let live: LiveChannel | null = null

/** Bytes of frames that are kept. */
const frameBytes = 256 * 2 ** 20

/** Takes out the path that is being drawn. */
function withoutDrawn(d: Document) {
  const i = d.paths.findIndex((p) => p.id === drawnPath)
  if (i >= 0) d.paths.splice(i, 1)
}

/** When each frame that is not here was asked for, of the newest answer. */
const asked = new Map<number, number>()

/** The queues of the scenes that were edited, also of those that are not open any more. */
const queues = new Map<string, SaveQueue>()

const queueOf = ({ id, revision, doc }: SceneState) => {
  let q = queues.get(id)
  if (!q || q.idle()) {
    q = new SaveQueue(id, revision, doc, { save: saveScene, get: getScene }, keeper)
    queues.set(id, q)
  }
  return q
}

/** Whether anything here is not on the server yet. */
export const anythingUnsaved = () => [...queues.values()].some((q) => q.told().unsaved > 0)

/** Sends edits again that an earlier visit left unsaved, of scenes that nobody has changed since. */
export async function resumeUnsaved(): Promise<Unsaved[]> {
  const left = await keeper.list().catch(() => [])
  for (const u of left) {
    if (u.alive || queues.has(u.id)) continue
    const s = await getScene(u.id).catch(() => null)
    if (s && s.revision === u.revision && !queues.has(u.id)) queueOf(s).resume(u)
  }
  return left
}

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
          // What could not be shown was only passed through, as while dragging.
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
            ? { seen: m.checks.seen, of: m.checks.of, looked: m.checks.looked }
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
      get().putBack() // what was refused was never kept: that is the step back
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
    checked: { seen: 0, of: 0, looked: 0 },
    simulating: null,
    fault: null,
    conflict: null,
    notice: '',
    selected: null,
    also: [],
    point: null,
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
        checked: { seen: 0, of: 0, looked: 0 },
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
      const s = await getScene(id)
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
      // What was previewed to this very state is still to be kept.
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

/** Asks for a frame that is not here, and where all has been sent ahead for those behind it. */
function want(n: number) {
  const { frames, filled, answer } = useBench.getState()
  if (!answer) return
  const { first, last, playing } = useClock.getState()
  const now = performance.now()
  const missing = (f: number) => !frames.has(f) && now - (asked.get(f) ?? -Infinity) >= patienceMs
  const list = playing && filled ? wanted((f) => frames.has(f), asked, n, first, last, now) : missing(n) ? [n] : []
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
