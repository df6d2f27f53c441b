import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import type { Kind } from '../core/refs'
import type { Key } from '../core/value'

/**
 * How fine the view is drawn: fine with soft shadows at the screen's own resolution,
 * plain without shadows at one pixel a point, rough at half of that and unsmoothed.
 */
export const qualities = ['fine', 'plain', 'rough'] as const
export type Quality = (typeof qualities)[number]

/** What this person likes, kept in this browser. */
interface Prefs {
  /** The picture quality that was chosen; automatic: as fine as the machine draws smoothly. */
  quality: Quality | 'automatic'
  setQuality: (quality: Quality | 'automatic') => void
  dark: boolean | null
  toggleDark: (now: boolean) => void
  /** The graph is open above the time strip. */
  graph: boolean
  toggleGraph: () => void
  /** What is folded away to give the view room. */
  folded: Partial<Record<Foldable, boolean>>
  fold: (what: Foldable) => void
}

/** What can be folded away: the rack with the recipe, the checks, the length strip. */
export type Foldable = 'recipe' | 'checks' | 'strip'

export const usePrefs = create<Prefs>()(
  persist(
    (set) => ({
      quality: 'automatic',
      setQuality: (quality) => set({ quality }),
      dark: null,
      toggleDark: (now) => set({ dark: !now }),
      graph: false,
      toggleGraph: () => set((s) => ({ graph: !s.graph })),
      folded: {},
      fold: (what) => set((s) => ({ folded: { ...s.folded, [what]: !s.folded[what] } })),
    }),
    { name: 'bead-prefs' },
  ),
)

/** How the view looks at the scene; free is after orbiting by hand. */
export type ViewName = 'corner' | 'side' | 'ahead' | 'above' | 'free'

interface ViewStore {
  /** What automatic quality has come to on this machine. */
  measured: Quality
  /** The machine was too slow for the quality that is drawn now. */
  coarser: () => void
  view: ViewName
  /** Counts presses, so that pressing a view again fits it again. */
  presses: number
  look: (view: ViewName) => void
  /** Without perspective, as in a drawing. The ready views Side, Ahead and Above always are. */
  flat: boolean
  toggleFlat: () => void
  freed: () => void
  /** The view looks at what is chosen, and goes along with it. */
  alongside: boolean
  toggleAlongside: () => void
  /** Fits the view to the next answer, as when something was added to an empty scene. */
  lookSoon: () => void
  wantsLook: boolean
  /** The loop solver is asked for from elsewhere. */
  wantsLoop: boolean
  looked: () => void
  /** The menu of a thing is open at a place of the window. */
  menu: { thing: { kind: Kind; id: string }; x: number; y: number } | null
  /** Counts how often the view was asked to go near what is chosen. */
  nears: number
  lookNear: () => void
  /** A film is asked for from outside, with these choices. */
  wantsFilm: object | null
  /** A still of the view is asked for. */
  wantsStill: boolean
  /** A film is being made: marks for work are left out of what is drawn. */
  filming: boolean
  /** The id of the camera that is looked through. */
  through: string | null
  /** The way of what is chosen is shown, a dot a frame. */
  trail: boolean
  /** What is chosen is shown as it was and will be. */
  ghosts: boolean
  /** Joints of the chosen figure that are chosen in its list. */
  joints: string[]
  /** The piece that was pressed last, which the trail is of. */
  lastPiece: number
  hoveredPiece: number | null
  hoverPiece: (piece: number | null) => void
  /** Keys that were copied in the graph, by the value they are of. */
  copiedKeys: Record<string, Key[]>
  /** Something in the view is being pulled: orbiting waits. */
  pulling: boolean
  setPulling: (pulling: boolean) => void
  /**
   * Paths that are being pulled larger about a place of the world, alone or with their rigs; valid until
   * another answer comes.
   */
  growing: {
    paths: string[]
    rigs: boolean
    about: [number, number, number]
    times: number
    answer: unknown
  } | null
}

export const useView = create<ViewStore>()((set) => ({
  measured: 'fine',
  coarser: () => set((s) => ({ measured: qualities[Math.min(qualities.indexOf(s.measured) + 1, 2)] })),
  view: 'corner',
  presses: 0,
  look: (view) => set((s) => ({ view, flat: view !== 'corner', presses: s.presses + 1, through: null })),
  flat: false,
  toggleFlat: () => set((s) => ({ flat: !s.flat })),
  freed: () => set((s) => (s.view === 'free' ? s : { view: 'free' })),
  alongside: false,
  toggleAlongside: () => set((s) => ({ alongside: !s.alongside })),
  copiedKeys: {},
  wantsLook: false,
  wantsLoop: false,
  lookSoon: () => set({ wantsLook: true }),
  looked: () => set((s) => ({ wantsLook: false, presses: s.presses + (s.view === 'free' ? 0 : 1) })),
  menu: null,
  nears: 0,
  lookNear: () => set((s) => ({ nears: s.nears + 1 })),
  through: null,
  filming: false,
  wantsFilm: null,
  wantsStill: false,
  trail: false,
  ghosts: false,
  joints: [],
  lastPiece: 0,
  hoveredPiece: null,
  hoverPiece: (hoveredPiece) => set((s) => (s.hoveredPiece === hoveredPiece ? s : { hoveredPiece })),
  pulling: false,
  setPulling: (pulling) => set({ pulling }),
  growing: null,
}))

/** The quality that the view is drawn with now. */
export function useQuality(): Quality {
  const chosen = usePrefs((p) => p.quality)
  const measured = useView((v) => v.measured)
  return chosen === 'automatic' ? measured : chosen
}
