import { produce } from 'immer'
import type { StateCreator } from 'zustand'
import { getScene, goToStep, redoScene, takeDocument, undoScene } from '../api/client'
import { keeper } from '../api/keeper'
import type { Document, Kept, SceneState } from '../core/page.generated'
import { listOf } from '../core/remove'
import type { Direction, SaveQueue, Step } from '../core/saveQueue'
import { strictly } from '../core/strict'
import { drawnPath } from '../core/value'
import type { Bench, DocumentState } from './benchState'
import { nothingChosen } from './choice'
import { useClock } from './clock'
import { useView } from './prefs'
import { queueOf, queues } from './queues'

/** No scene is open. */
const noDocument = {
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
  fault: null,
  conflict: null,
} as const satisfies Partial<DocumentState>

/** Takes out the path that is being drawn. */
function withoutDrawn(d: Document) {
  const i = d.paths.findIndex((p) => p.id === drawnPath)
  if (i >= 0) d.paths.splice(i, 1)
}

/** The part of the store that owns the document, its history and its saving. */
export const documentPart: StateCreator<Bench, [], [], DocumentState> = (set, get) => {
  const show = (doc: Document, fill: boolean) => get().show(doc, fill)

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
    ...noDocument,
    async open(id) {
      get().close()
      useView.setState({ alongside: false })
      set({ ...noDocument, ...nothingChosen, id })
      const s = strictly<SceneState>('SceneState', await getScene(id))
      if (get().id !== id) return
      // Edits of this visit that are still on their way, or those that an earlier one left.
      const busy = queues.get(id)
      const all = busy && !busy.idle() ? [] : await keeper.list().catch(() => [])
      const left = all.findLast((u) => u.id === id && !u.alive)
      if (get().id !== id) return
      const q = queueOf(s)
      get().connect(id, (revision) => void queues.get(id)?.moved(revision))
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
      get().disconnect()
      queues.get(get().id)?.listen({}) // it goes on by itself
      useClock.getState().pause()
      set({ id: '', doc: null })
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
      set({ doc, base: doc, fault: null })
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
      const { conflict, doc } = get()
      if (!conflict || !doc) return
      set({ conflict: null, base: doc })
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
  }
}
