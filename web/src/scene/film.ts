import { OrthographicCamera, PerspectiveCamera } from 'three'
import { pictures } from '../api/client'
import { animated } from '../core/apng'
import { framesOf, momentsOf, padded, type FilmKind, type FilmPlan } from '../core/film'
import { FrameCache } from '../core/frameCache'
import { readMessage, type Shot } from '../core/wire'
import { mono } from '../look/theme'
import { useBench } from '../stores/bench'
import { useView } from '../stores/prefs'
import { standAs } from './Cameras'
import { imagesReady } from './finish'
import { eye } from './nudge'
import { Shooter, type Behind } from './shooter'
import type { Booth } from './Studio'

/** How a film is made. */
export interface FilmJob extends FilmPlan {
  kind: FilmKind
  width: number
  height: number
  /** Of the document; -1: as the view looks now. */
  camera: number
  smooth: boolean
  behind: Behind
  ink: string
  /** What is written on it. */
  frameNumber: boolean
  name: string
  notes: string[]
  fps: number
  /** It is meant to be played again and again. */
  loops: boolean
}

/** The sizes that a film may have. */
export const mostWidth = 3840
export const mostHeight = 2160

/** Ends a film that somebody does not want any more. */
export class Given extends Error {}

/** Holds one picture, whatever frame is asked for. */
class Only extends FrameCache<Shot> {
  now: Shot | undefined
  override get() {
    return this.now
  }
  override has() {
    return true
  }
  override put() {
    // What comes by the live channel meanwhile is not shown.
  }
}

/** Shows given shots in everything that draws the bench. Letting go brings back what was shown before. */
function standIn() {
  const { frames, shot, shown, selected, also, answer } = useBench.getState()
  const only = new Only(0)
  only.now = shot
  useView.setState({ filming: true })
  useBench.setState({ frames: only, selected: null, also: [] })
  return {
    put(next: Shot) {
      if (useBench.getState().answer !== answer) throw new Given('The scene was changed, and the film was given up.')
      only.now = next
      useBench.setState({ shot: next, shown: next.pieces })
    },
    leave() {
      useView.setState({ filming: false })
      const changed = useBench.getState().answer !== answer
      useBench.setState({ selected, also, ...(changed ? {} : { frames, shot, shown }) })
    },
  }
}

/** The camera of a film, standing as a shot has it. */
function lensFor(job: FilmJob, shot: Shot): PerspectiveCamera | OrthographicCamera {
  const aspect = job.width / job.height
  const now = eye.camera
  if (job.camera < 0 && now instanceof OrthographicCamera) {
    const flat = now.clone()
    const half = (now.top - now.bottom) / 2
    flat.left = -half * aspect
    flat.right = half * aspect
    flat.updateProjectionMatrix()
    return flat
  }
  const camera = new PerspectiveCamera(32, aspect, 0.01, 5000)
  if (job.camera >= 0) {
    standAs(camera, shot, job.camera)
    camera.fov = ((shot.cameras[job.camera]?.[7] ?? 0.56) * 180) / Math.PI
  } else if (now instanceof PerspectiveCamera) {
    camera.position.copy(now.position)
    camera.quaternion.copy(now.quaternion)
    camera.fov = now.fov
  }
  camera.updateProjectionMatrix()
  camera.updateMatrixWorld()
  return camera
}

/** Waits a turn, so that React has drawn and the page can answer. */
const turn = () => new Promise<void>((done) => setTimeout(done))

/**
 * Makes a film, or a still of one frame. Each picture is given to take on a canvas, in order. Progress is told
 * as pictures done, pictures in all, and seconds left.
 */
async function shootAll(
  job: FilmJob,
  booth: Booth,
  signal: AbortSignal,
  take: (canvas: HTMLCanvasElement, k: number) => Promise<void>,
  tell: (done: number, of: number, secondsLeft: number) => void,
) {
  const doc = useBench.getState().answer!.doc
  const frames = framesOf(job)
  const began = performance.now()
  const shooter = new Shooter(booth.gl, booth.scene, job.width, job.height, job.smooth)
  const canvas = document.createElement('canvas')
  canvas.width = job.width
  canvas.height = job.height
  const draw = canvas.getContext('2d')!
  const stand = standIn()
  try {
    await turn()
    // So many at a time as the server sends at once.
    const batch = Math.max(Math.floor(1000 / job.moments), 1)
    for (let from = 0; from < frames.length; from += batch) {
      const some = frames.slice(from, from + batch)
      const stream = pictures(
        doc,
        some.flatMap((f) => momentsOf(f, job)),
        signal,
      )
      for (const [i, frame] of some.entries()) {
        const shots: Shot[] = []
        while (shots.length < job.moments) {
          const next = await stream.next()
          if (next.done) throw new Given('The server broke off: is it still running?')
          const m = readMessage(next.value)
          if (m.kind === 'frame') shots.push(m.shot)
        }
        if (from + i === 0) {
          stand.put(shots[0]!)
          await turn() // the first time round what is drawn anew
          await imagesReady()
          await turn()
          booth.gl.compile(booth.scene, lensFor(job, shots[0]!))
        }
        // Where it looks from is that of the middle of the time.
        const camera = lensFor(job, shots[Math.floor(shots.length / 2)]!)
        shooter.shoot(camera, shots.length, (k) => stand.put(shots[k]!), job.behind)
        draw.clearRect(0, 0, job.width, job.height)
        draw.drawImage(booth.gl.domElement, 0, 0)
        write(draw, job, frame)
        await take(canvas, from + i)
        const n = from + i + 1
        tell(n, frames.length, ((performance.now() - began) / n / 1000) * (frames.length - n))
        await turn()
        if (signal.aborted) throw new Given('The film was given up.')
      }
      await stream.return(undefined)
    }
  } finally {
    stand.leave()
    shooter.dispose()
  }
}

/** Writes the frame's number, the scene's name and notes on a picture. */
function write(draw: CanvasRenderingContext2D, job: FilmJob, frame: number) {
  const size = Math.max(Math.round(job.height / 45), 10)
  draw.font = `500 ${size}px ${mono}`
  draw.fillStyle = job.ink
  draw.textBaseline = 'bottom'
  const edge = size * 1.2
  const foot = job.height - edge
  if (job.frameNumber) {
    draw.textAlign = 'right'
    draw.fillText(`frame ${padded(frame, job.last)}`, job.width - edge, foot)
  }
  draw.textAlign = 'left'
  if (job.name) draw.fillText(job.name, edge, foot)
  draw.textBaseline = 'top'
  job.notes.forEach((n, k) => draw.fillText(n, edge, edge + k * size * 1.5))
}

const codecs = { webm: 'vp9', 'webm-av1': 'av1', mp4: 'avc' } as const

/** The kinds of film that this browser can make at a size, and why it makes no more. */
export async function filmsHere(width: number, height: number): Promise<FilmKind[]> {
  const { canEncodeVideo } = await import('mediabunny')
  const out: FilmKind[] = []
  for (const [kind, codec] of Object.entries(codecs)) {
    if (await canEncodeVideo(codec, { width, height }).catch(() => false)) out.push(kind as FilmKind)
  }
  return [...out, 'apng', 'png']
}

/** A film as a file: its bytes and the ending of its name. */
export interface Film {
  blob: Blob
  ending: string
}

export async function makeFilm(
  job: FilmJob,
  booth: Booth,
  signal: AbortSignal,
  tell: (done: number, of: number, secondsLeft: number) => void,
): Promise<Film> {
  if (job.kind === 'png' || job.kind === 'apng') {
    const pngs: Uint8Array[] = []
    const count = framesOf(job).length
    await shootAll(
      job,
      booth,
      signal,
      async (canvas) => void pngs.push(new Uint8Array(await (await asPNG(canvas)).arrayBuffer())),
      tell,
    )
    if (job.kind === 'apng') {
      return { blob: new Blob([animated(pngs, job.fps, job.loops)], { type: 'image/apng' }), ending: 'apng' }
    }
    const { zip } = await import('fflate')
    const files: Record<string, [Uint8Array, { level: 0 }]> = {}
    pngs.forEach((png, k) => {
      const number = padded(job.rounds > 1 ? k + 1 : job.first + k, Math.max(job.last, count))
      files[`frame_${number}.png`] = [png, { level: 0 }]
    })
    const bytes = await new Promise<Uint8Array>((done, fail) => zip(files, (e, data) => (e ? fail(e) : done(data))))
    return { blob: new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/zip' }), ending: 'png.zip' }
  }
  const { BufferTarget, CanvasSource, Mp4OutputFormat, Output, QUALITY_VERY_HIGH, WebMOutputFormat } =
    await import('mediabunny')
  const target = new BufferTarget()
  const output = new Output({ format: job.kind === 'mp4' ? new Mp4OutputFormat() : new WebMOutputFormat(), target })
  let source: InstanceType<typeof CanvasSource> | undefined
  await shootAll(
    job,
    booth,
    signal,
    async (canvas, k) => {
      if (!source) {
        source = new CanvasSource(canvas, {
          codec: codecs[job.kind as keyof typeof codecs],
          quality: QUALITY_VERY_HIGH,
        })
        output.addVideoTrack(source, { frameRate: job.fps })
        await output.start()
      }
      await source.add(k / job.fps, 1 / job.fps)
    },
    tell,
  )
  await output.finalize()
  return {
    blob: new Blob([target.buffer!], { type: job.kind === 'mp4' ? 'video/mp4' : 'video/webm' }),
    ending: job.kind === 'mp4' ? 'mp4' : 'webm',
  }
}

/** One picture, as PNG. */
export async function makeStill(job: FilmJob, booth: Booth, signal: AbortSignal): Promise<Blob> {
  let still: Blob | undefined
  await shootAll(
    { ...job, rounds: 1, last: job.first },
    booth,
    signal,
    async (canvas) => void (still = await asPNG(canvas)),
    () => undefined,
  )
  return still!
}

const asPNG = (canvas: HTMLCanvasElement) =>
  new Promise<Blob>((done, fail) =>
    canvas.toBlob((b) => (b ? done(b) : fail(new Error('The picture could not be written.'))), 'image/png'),
  )
