import { pictureSize } from '../../core/camera'
import type { FilmKind } from '../../core/film'
import type { Document } from '../../core/page.generated'
import { playsOnce } from '../../core/value'
import { darkRoles, lightRoles } from '../../look/theme'
import type { FilmJob } from '../../scene/film'
import { useBench } from '../../stores/bench'
import { failing } from './checks'

export const kindNames: Record<FilmKind, string> = {
  webm: 'WebM, VP9',
  'webm-av1': 'WebM, AV1',
  mp4: 'MP4, H.264',
  apng: 'Animated PNG',
  png: 'PNGs in an archive',
}

export const behinds = ['paper', 'night', 'colour', 'none'] as const
export type Background = (typeof behinds)[number]

/** What a film is asked for from outside, as by the command line. */
export interface FilmWish {
  kind?: FilmKind
  camera?: string
  width?: number
  height?: number
  first?: number
  last?: number
  rounds?: number
  moments?: number
  shutter?: number
  background?: Background
  colour?: string
  smooth?: boolean
  ground?: boolean
  paths?: boolean
  frameNumber?: boolean
  named?: boolean
  checks?: boolean
}

/** Encoders take even sizes only. */
const even = (v: number) => Math.round(v / 2) * 2

/** The film that a wish asks for, of the kinds that this browser can make. */
export function jobOf(w: FilmWish, doc: Document, kinds: FilmKind[]): FilmJob {
  const cameras = doc.cameras ?? []
  const camera = cameras.findIndex((c) => c.id === w.camera)
  const own = pictureSize(cameras[camera])
  const looks = w.background === 'night' ? darkRoles : lightRoles
  const loops = !playsOnce(doc)
  const first = w.first ?? doc.range.first
  const colour = w.colour ?? '#FFFFFF'
  return {
    kind: w.kind && kinds.includes(w.kind) ? w.kind : kinds[0]!,
    width: even(w.width ?? own[0]),
    height: even(w.height ?? own[1]),
    camera,
    first,
    last: Math.max(w.last ?? doc.range.last, first),
    rounds: loops ? (w.rounds ?? 1) : 1,
    moments: w.moments ?? 1,
    shutter: w.shutter ?? 0.5,
    smooth: w.smooth ?? true,
    behind:
      w.background === 'none' ? null : w.background === 'colour' ? [colour, colour] : [looks.viewTop, looks.viewBottom],
    ink: looks.ink,
    frameNumber: w.frameNumber ?? false,
    name: w.named ? doc.name : '',
    notes: w.checks ? figures() : [],
    fps: doc.fps,
    loops,
  }
}

/** What is outside, in a few words each. */
function figures(): string[] {
  const { checks, doc } = useBench.getState()
  return checks
    .filter((c) => c.state === 'outside')
    .map((c) => `${doc?.rigs.find((r) => r.id === c.rig)?.name ?? ''}: ${failing(c, doc?.units)}`)
}
