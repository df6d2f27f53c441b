import type { Checks, Readout, Refusal } from '../api/page.generated'

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

export interface PathLine {
  points: Float32Array
  distances: Float32Array
}

export interface MeshData {
  positions: Float32Array
  normals: Float32Array
  indices: Uint32Array
}

interface Head {
  seq: number
  frame: number
}

export type Message =
  | (Head & { kind: 'scene'; readout: Readout; paths: PathLine[]; meshes: Map<string, MeshData>; pieces: Pieces[] })
  | (Head & { kind: 'frame'; pieces: Pieces[] })
  | (Head & { kind: 'checks'; checks: Checks })
  | (Head & { kind: 'fault'; fault: Refusal })
  | (Head & { kind: 'filled' })

const magic = 0x44414542
const version = 1

export function readMessage(buffer: ArrayBuffer): Message {
  const view = new DataView(buffer)
  if (buffer.byteLength < 24 || view.getUint32(0, true) !== magic || view.getUint16(4, true) !== version) {
    throw new Error('The server speaks another version of the live channel. Reload the page.')
  }
  const head = { seq: view.getUint32(8, true), frame: view.getInt32(12, true) }
  const sections = readSections(buffer, view)
  const text = (tag: string): unknown => {
    const s = sections.find((x) => x.tag === tag)
    if (!s) throw new Error(`The message has no ${tag} section.`)
    return JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, s.at, s.bytes)))
  }
  const pieces = () => sections.filter((s) => s.tag === 'PIEC').map((s) => readPieces(buffer, view, s.at))
  switch (view.getUint16(6, true)) {
    case 1: {
      const paths: PathLine[] = []
      const meshes = new Map<string, MeshData>()
      for (const s of sections) {
        if (s.tag === 'PATH') {
          const n = view.getUint32(s.at + 4, true)
          paths[view.getUint32(s.at, true)] = {
            points: new Float32Array(buffer, s.at + 8, 3 * n),
            distances: new Float32Array(buffer, s.at + 8 + 12 * n, n),
          }
        } else if (s.tag === 'MESH') {
          const name = new TextDecoder().decode(new Uint8Array(buffer, s.at, 16))
          const vertices = view.getUint32(s.at + 16, true)
          const indices = view.getUint32(s.at + 20, true)
          const at = s.at + 24
          meshes.set(name, {
            positions: new Float32Array(buffer, at, 3 * vertices),
            normals: new Float32Array(buffer, at + 12 * vertices, 3 * vertices),
            indices: new Uint32Array(buffer, at + 24 * vertices, indices),
          })
        }
      }
      return { kind: 'scene', ...head, readout: text('READ') as Readout, paths, meshes, pieces: pieces() }
    }
    case 2:
      return { kind: 'frame', ...head, pieces: pieces() }
    case 3:
      return { kind: 'checks', ...head, checks: text('JSON') as Checks }
    case 4:
      return { kind: 'fault', ...head, fault: text('JSON') as Refusal }
    default:
      return { kind: 'filled', ...head }
  }
}

function readSections(buffer: ArrayBuffer, view: DataView) {
  const out: { tag: string; at: number; bytes: number }[] = []
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
