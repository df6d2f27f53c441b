import { create } from 'zustand'
import { bakeFileUrl, bakeState, cancelBake, fetchAddress, listBakes, RequestError, startBake } from '../api/client'
import type { AskBake, BakeState, Document } from '../core/page.generated'

/**
 * What is asked for in Deliver. Numbers of frames are left out unless they were typed; then those of the range
 * are used.
 */
export interface Wish extends Omit<AskBake, 'scene' | 'revision' | 'doc' | 'rigs'> {
  format: string
  /** The destination whose choices these are; '' for choices of one's own. */
  goes: string
  /** Rigs that are left out. */
  without: string[]
  solver: boolean
}

const usual: Wish = {
  format: 'glb',
  goes: '',
  without: [],
  solver: false,
  density: 1000,
  tolerance: 0.001,
  closing: true,
}

const shelf = (scene: string) => `bead-deliver-${scene}`

/** What was last asked for of a scene, in this browser. */
export function lastWish(scene: string): Wish {
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(shelf(scene)) ?? '{}') as Partial<Wish>) }
  } catch {
    return usual
  }
}

export const keepWish = (scene: string, wish: Wish) => {
  try {
    localStorage.setItem(shelf(scene), JSON.stringify(wish))
  } catch {
    // A full store forgets: the wish is asked for anew next time.
  }
}

/** A wish as it is sent, but for the scene. */
export type Asks = Omit<AskBake, 'scene' | 'revision' | 'doc'>

export interface Delivery {
  scene: string
  state: BakeState
  /** Asked for in this window, which saves the file as soon as it is there. */
  own: boolean
}

interface Deliveries {
  list: Delivery[]
  error: string
  /** Begins one more bake. A saved scene is named by its revision; of an unsaved one the document is sent along. */
  start: (scene: string, doc: Document, saved: number | null, wish: Wish, asks: Asks) => Promise<void>
  /** Finds the files of a scene that the server still has. */
  load: (scene: string) => Promise<void>
  cancel: (id: string) => Promise<void>
  forget: (id: string) => void
}

const lookEvery = 120

export const useDeliveries = create<Deliveries>()((set, get) => {
  let timer = 0
  const gone = new Set<string>()
  const put = (state: BakeState) =>
    set({ list: get().list.map((d) => (d.state.id === state.id ? { ...d, state } : d)) })
  const look = async () => {
    timer = 0
    for (const d of get().list.filter((d) => d.state.state === 'running')) {
      try {
        const state = await bakeState(d.state.id)
        put(state)
        if (state.state === 'finished' && d.own) fetchAddress(bakeFileUrl(state.id))
      } catch (e) {
        put({ ...d.state, state: 'failed', detail: e instanceof Error ? e.message : String(e) })
      }
    }
    again()
  }
  const again = () => {
    if (!timer && get().list.some((d) => d.state.state === 'running'))
      timer = window.setTimeout(() => void look(), lookEvery)
  }
  return {
    list: [],
    error: '',
    start: async (scene, doc, saved, wish, asks) => {
      set({ error: '' })
      keepWish(scene, wish)
      try {
        let state: BakeState
        try {
          state = await startBake(saved === null ? { ...asks, doc } : { ...asks, scene, revision: saved })
        } catch (e) {
          // Somebody has just changed it: what is seen here is what is wanted.
          if (!(e instanceof RequestError) || e.problem.status !== 409 || saved === null) throw e
          state = await startBake({ ...asks, doc })
        }
        set({ list: [{ scene, state, own: true }, ...get().list] })
        again()
      } catch (e) {
        if (!(e instanceof RequestError)) throw e
        set({ error: e.message })
      }
    },
    load: async (scene) => {
      const known = new Set(get().list.map((d) => d.state.id))
      const there = await listBakes().catch(() => [])
      const more = there.filter((s) => s.scene === scene && !known.has(s.id) && !gone.has(s.id))
      set({ list: [...get().list, ...more.map((state) => ({ scene, state, own: false }))] })
      again()
    },
    cancel: (id) => cancelBake(id),
    forget: (id) => {
      gone.add(id)
      set({ list: get().list.filter((d) => d.state.id !== id) })
    },
  }
})
