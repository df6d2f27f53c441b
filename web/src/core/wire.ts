import type { Checks, Moved, Readout, Refusal, Simulating } from './page.generated'

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

export function readMessage(buffer: ArrayBuffer): Message {
  const view = new DataView(buffer)
  if (buffer.byteLength < 24 || view.getUint32(0, true) !== magic || view.getUint16(4, true) !== version) {
    throw new Error('The server speaks another version of the live channel. Reload the page.')
  }
  const head = { seq: view.getUint32(8, true), frame: view.getInt32(12, true), bytes: buffer.byteLength }
  const sections = readSections(buffer, view)
  const text = (tag: string): unknown => {
    const s = sections.find((x) => x.tag === tag)
    if (!s) throw new Error(`The message has no ${tag} section.`)
    return JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, s.at, s.bytes)))
  }
  switch (view.getUint16(6, true)) {
    case 1: {
      const meshes = new Map<string, MeshData>()
      for (const s of sections) {
        if (s.tag === 'MESH') {
          const name = new TextDecoder().decode(new Uint8Array(buffer, s.at, 16))
          const vertices = view.getUint32(s.at + 16, true)
          const indices = view.getUint32(s.at + 20, true)
          const textured = view.getUint32(s.at + 24, true)
          const at = s.at + 32
          meshes.set(name, {
            positions: new Float32Array(buffer, at, 3 * vertices),
            normals: new Float32Array(buffer, at + 12 * vertices, 3 * vertices),
            indices: new Uint32Array(buffer, at + 24 * vertices, indices),
            uvs: new Float32Array(buffer, at + 24 * vertices + 4 * indices, 2 * textured),
          })
        }
      }
      return {
        kind: 'scene',
        ...head,
        readout: text('READ') as Readout,
        meshes,
        shot: readShot(buffer, view, sections),
      }
    }
    case 2:
      return { kind: 'frame', ...head, shot: readShot(buffer, view, sections) }
    case 3:
      return { kind: 'checks', ...head, checks: text('JSON') as Checks }
    case 4:
      return { kind: 'fault', ...head, fault: text('JSON') as Refusal }
    case 7:
      return { kind: 'simulating', ...head, simulating: text('JSON') as Simulating }
    case 6:
      return { kind: 'moved', ...head, moved: text('JSON') as Moved }
    default:
      return { kind: 'filled', ...head }
  }
}

interface Section {
  tag: string
  at: number
  bytes: number
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

function readShot(buffer: ArrayBuffer, view: DataView, sections: Section[]): Shot {
  const shot = emptyShot()
  for (const s of sections) {
    if (s.tag === 'PIEC') shot.pieces.push(readPieces(buffer, view, s.at))
    else if (s.tag === 'LOOK') {
      for (let at = s.at; at < s.at + s.bytes; at += 32) shot.cameras.push(new Float32Array(buffer, at, 8))
    } else if (s.tag === 'WAIT') shot.waits = true
    else if (s.tag === 'BODY') {
      const pieces = view.getUint32(s.at + 4, true)
      const from = s.at + 8 + 16 * pieces
      const vertices = (s.bytes - 8 - 16 * pieces) / 18
      shot.bodies[view.getUint32(s.at, true)] = {
        reach: new Float64Array(buffer, s.at + 8, 2 * pieces),
        positions: new Float32Array(buffer, from, 3 * vertices),
        normals: new Int16Array(buffer, from + 12 * vertices, 3 * vertices),
      }
    } else if (s.tag === 'JOIN') {
      shot.joints[view.getUint32(s.at, true)] = new Float32Array(buffer, s.at + 8, 3 * view.getUint32(s.at + 4, true))
    } else if (s.tag === 'VALV') shot.values = new Float64Array(buffer, s.at, s.bytes / 8)
    else if (s.tag === 'WHEL') {
      shot.wheels[view.getUint32(s.at, true)] = new Float32Array(
        buffer,
        s.at + 8,
        wheelStride * view.getUint32(s.at + 4, true),
      )
    } else if (s.tag === 'PATH') {
      const n = view.getUint32(s.at + 4, true)
      shot.lines[view.getUint32(s.at, true)] = {
        points: new Float32Array(buffer, s.at + 8, 3 * n),
        distances: new Float32Array(buffer, s.at + 8 + 12 * n, n),
      }
    } else if (s.tag === 'POSE') {
      let at = s.at + 16
      for (const [k, list] of [shot.paths, shot.fixtures, shot.carriers].entries()) {
        for (let n = view.getUint32(s.at + 4 * k, true); n > 0; n--, at += 28) {
          list.push(new Float32Array(buffer, at, 7))
        }
      }
    }
  }
  return shot
}

function readSections(buffer: ArrayBuffer, view: DataView) {
  const out: Section[] = []
  for (let at = 24; at + 8 <= buffer.byteLength;) {
    const tag = String.fromCharCode(...new Uint8Array(buffer, at, 4))
    const bytes = view.getUint32(at + 4, true)
    out.push({ tag, at: at + 8, bytes })
    at += 8 + bytes
    at += (8 - (at % 8)) % 8
  }
  return out
}

function readPieces(buffer: ArrayBuffer, view: DataView, at: number): Pieces {
  const n = view.getUint32(at + 4, true)
  return {
    rig: view.getUint32(at, true),
    travel: view.getFloat64(at + 8, true),
    offset: view.getFloat64(at + 16, true),
    roll: view.getFloat64(at + 24, true),
    distances: new Float64Array(buffer, at + 32, n),
    transforms: new Float32Array(buffer, at + 32 + 8 * n, stride * n),
  }
}
