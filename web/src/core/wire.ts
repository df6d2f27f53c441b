import type { Checks, Moved, Readout, Refusal, Simulating } from './page.generated'
import { strictly, Unreadable } from './strict'

// Reads the live channel's binary messages (docs/protocol.md). Arrays are views
// of the message where alignment allows, so nothing is copied.

/** The rigid pieces of one rig in one frame. */
export interface Pieces {
  rig: number
  /** The values that may move, as they are in this frame: metres, metres, degrees. */
  travel: number
  offset: number
  roll: number
  distances: Float64Array
  /** Position, rotation (x y z w) and scale: ten numbers a piece. */
  transforms: Float32Array
}

export const stride = 10

/** The pieces of one rig that take the form of their path. */
export interface BodyShape {
  /** Distances of tail and head along the path, two a piece. */
  reach: Float64Array
  /** Three numbers a vertex, in the world, piece after piece. */
  positions: Float32Array
  normals: Int16Array
}

/** Numbers a wheel: seven of its pose, then whether it touches, from, to. */
export const wheelStride = 10

export interface PathLine {
  points: Float32Array
  distances: Float32Array
}

/** Position and rotation (x y z w): seven numbers. */
export type Pose = Float32Array

/** What differs from frame to frame. */
export interface Shot {
  pieces: Pieces[]
  /** Where the spaces of the paths, the fixtures and the carriers are in the world. */
  paths: Pose[]
  fixtures: Pose[]
  carriers: Pose[]
  /** Where the cameras look from, and the angle from top to bottom of what they see: eight numbers each. */
  cameras: Float32Array[]
  /** The paths that are deformed over time, as they are now. */
  lines: PathLine[]
  /** The wheels of each path: pose, whether the belt touches it, from and to which distance. */
  wheels: (Float32Array | undefined)[]
  /** The values that move, in the order of the readout's. */
  values: Float64Array
  /** Something is shown as it would be without its simulation, which has not come so far. */
  waits: boolean
  /** Of each rig whose pieces bend. */
  bodies: (BodyShape | undefined)[]
  /** Where the joints of the first figure of a rig are: three numbers each. */
  joints: (Float32Array | undefined)[]
}

export interface MeshData {
  positions: Float32Array
  normals: Float32Array
  indices: Uint32Array
  /** Two numbers a vertex, across and along: metres, or shares of an image; empty of a mesh without. */
  uvs: Float32Array
}

interface Head {
  seq: number
  frame: number
  /** Of the whole message. */
  bytes: number
}

export type Message =
  | (Head & { kind: 'scene'; readout: Readout; meshes: Map<string, MeshData>; shot: Shot })
  | (Head & { kind: 'frame'; shot: Shot })
  | (Head & { kind: 'checks'; checks: Checks })
  | (Head & { kind: 'fault'; fault: Refusal })
  | (Head & { kind: 'filled' })
  | (Head & { kind: 'simulating'; simulating: Simulating })
  /** The scene has another revision; of no edit. */
  | (Head & { kind: 'moved'; moved: Moved })

const magic = 0x44414542
const version = 1

/** Reads a message; what is no whole message of this version is an Unreadable. */
export function readMessage(buffer: ArrayBuffer): Message {
  const view = new DataView(buffer)
  if (buffer.byteLength < 24 || view.getUint32(0, true) !== magic || view.getUint16(4, true) !== version) {
    throw new Unreadable('no message of the live channel')
  }
  const head = { seq: view.getUint32(8, true), frame: view.getInt32(12, true), bytes: buffer.byteLength }
  const sections = readSections(buffer, view)
  const json = <T>(tag: string, type: string): T => {
    const s = sections.find((x) => x.tag === tag)
    if (!s) throw new Unreadable(`no ${tag}`)
    let value: unknown
    try {
      value = JSON.parse(new TextDecoder().decode(s.bytes(s.left)))
    } catch {
      throw new Unreadable(`${tag} is no JSON`)
    }
    return strictly<T>(type, value)
  }
  const kind = view.getUint16(6, true)
  switch (kind) {
    case 1: {
      const meshes = new Map(sections.filter((s) => s.tag === 'MESH').map(readMesh))
      return { kind: 'scene', ...head, readout: json('READ', 'Readout'), meshes, shot: readShot(sections) }
    }
    case 2:
      return { kind: 'frame', ...head, shot: readShot(sections) }
    case 3:
      return { kind: 'checks', ...head, checks: json('JSON', 'Checks') }
    case 4:
      return { kind: 'fault', ...head, fault: json('JSON', 'Refusal') }
    case 5:
      return { kind: 'filled', ...head }
    case 6:
      return { kind: 'moved', ...head, moved: json('JSON', 'Moved') }
    case 7:
      return { kind: 'simulating', ...head, simulating: json('JSON', 'Simulating') }
    default:
      throw new Unreadable(`kind ${kind}`)
  }
}

/** A section that is read from its front to its end, and not beyond. */
class Section {
  private at: number
  constructor(
    readonly tag: string,
    private readonly view: DataView,
    from: number,
    private readonly end: number,
  ) {
    this.at = from
  }

  get left() {
    return this.end - this.at
  }

  /** Where n numbers of a size begin; what is left may hold no whole number of them. */
  private take(n: number, size: number): number {
    if (!Number.isInteger(n) || n * size > this.left) throw new Unreadable(`${this.tag} is cut short`)
    const at = this.at
    this.at += n * size
    return at
  }

  private get buffer() {
    return this.view.buffer as ArrayBuffer
  }

  u32 = () => this.view.getUint32(this.take(1, 4), true)
  f64 = () => this.view.getFloat64(this.take(1, 8), true)
  bytes = (n: number) => new Uint8Array(this.buffer, this.take(n, 1), n)
  f32s = (n: number) => new Float32Array(this.buffer, this.take(n, 4), n)
  f64s = (n: number) => new Float64Array(this.buffer, this.take(n, 8), n)
  u32s = (n: number) => new Uint32Array(this.buffer, this.take(n, 4), n)
  i16s = (n: number) => new Int16Array(this.buffer, this.take(n, 2), n)

  /** The number of a thing of the scene. */
  index(): number {
    const i = this.u32()
    if (i > mostThings) throw new Unreadable(`${this.tag} is of thing ${i}`)
    return i
  }

  /** Nothing may be left over. */
  done() {
    if (this.left > 0) throw new Unreadable(`${this.tag} goes on`)
  }
}

/** More rigs, paths or the like than a scene may have. */
const mostThings = 100_000

function readMesh(s: Section): [string, MeshData] {
  const name = new TextDecoder().decode(s.bytes(16))
  const vertices = s.u32()
  const indices = s.u32()
  const textured = s.u32()
  s.u32()
  const mesh = {
    positions: s.f32s(3 * vertices),
    normals: s.f32s(3 * vertices),
    indices: s.u32s(indices),
    uvs: s.f32s(2 * textured),
  }
  s.done()
  return [name, mesh]
}

/** A picture of nothing. */
export const emptyShot = (): Shot => ({
  pieces: [],
  paths: [],
  fixtures: [],
  carriers: [],
  cameras: [],
  lines: [],
  wheels: [],
  values: new Float64Array(),
  waits: false,
  bodies: [],
  joints: [],
})

/** How each section of a picture is read into it. */
const readers: Record<string, (shot: Shot, s: Section) => void> = {
  PIEC(shot, s) {
    const rig = s.index()
    const n = s.u32()
    shot.pieces.push({
      rig,
      travel: s.f64(),
      offset: s.f64(),
      roll: s.f64(),
      distances: s.f64s(n),
      transforms: s.f32s(stride * n),
    })
  },
  BODY(shot, s) {
    const rig = s.index()
    const reach = s.f64s(2 * s.u32())
    const vertices = s.left / 18
    shot.bodies[rig] = { reach, positions: s.f32s(3 * vertices), normals: s.i16s(3 * vertices) }
  },
  JOIN(shot, s) {
    shot.joints[s.index()] = s.f32s(3 * s.u32())
  },
  LOOK(shot, s) {
    while (s.left > 0) shot.cameras.push(s.f32s(8))
  },
  WAIT(shot, s) {
    s.index()
    shot.waits = true
  },
  VALV(shot, s) {
    shot.values = s.f64s(s.left / 8)
  },
  WHEL(shot, s) {
    shot.wheels[s.index()] = s.f32s(wheelStride * s.u32())
  },
  PATH(shot, s) {
    const path = s.index()
    const n = s.u32()
    shot.lines[path] = { points: s.f32s(3 * n), distances: s.f32s(n) }
  },
  POSE(shot, s) {
    const counts = [s.u32(), s.u32(), s.u32()]
    s.u32()
    for (const [k, list] of [shot.paths, shot.fixtures, shot.carriers].entries()) {
      for (let n = counts[k]!; n > 0; n--) list.push(s.f32s(7))
    }
  },
}

function readShot(sections: Section[]): Shot {
  const shot = emptyShot()
  for (const s of sections) {
    const read = readers[s.tag]
    if (!read) continue // read elsewhere, or of a newer server
    read(shot, s)
    s.done()
  }
  return shot
}

function readSections(buffer: ArrayBuffer, view: DataView) {
  const out: Section[] = []
  for (let at = 24; at < buffer.byteLength;) {
    if (at + 8 > buffer.byteLength) throw new Unreadable('cut short')
    const tag = String.fromCharCode(...new Uint8Array(buffer, at, 4))
    const end = at + 8 + view.getUint32(at + 4, true)
    if (end > buffer.byteLength) throw new Unreadable(`${tag} is cut short`)
    out.push(new Section(tag, view, at + 8, end))
    at = end + ((8 - (end % 8)) % 8)
  }
  return out
}
