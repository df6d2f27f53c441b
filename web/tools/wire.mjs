// Writes messages of the live channel as docs/protocol.md has them, reads them with the page's reader, whole,
// cut short and damaged, and writes what came of it as JSON, for tests.
import { createServer } from 'vite'

const vite = await createServer({
  configFile: false,
  logLevel: 'error',
  server: { middlewareMode: true },
  optimizeDeps: { noDiscovery: true, include: [] },
})
const { readMessage } = await vite.ssrLoadModule('/src/core/wire.ts')
const { Unreadable, wrongIn } = await vite.ssrLoadModule('/src/core/strict.ts')

const text = (s) => new globalThis.TextEncoder().encode(s)
const of = (...parts) =>
  globalThis.Buffer.concat(parts.map((p) => globalThis.Buffer.from(p.buffer, p.byteOffset, p.byteLength)))
const u32 = (...v) => new Uint32Array(v)
const f32 = (...v) => new Float32Array(v)
const f64 = (...v) => new Float64Array(v)

function message(kind, sections) {
  const head = new DataView(new ArrayBuffer(24))
  ;[...'BEAD'].forEach((c, k) => head.setUint8(k, c.charCodeAt(0)))
  head.setUint16(4, 1, true)
  head.setUint16(6, kind, true)
  head.setUint32(8, 7, true)
  head.setInt32(12, -3, true)
  const all = [head]
  for (const [tag, payload] of sections) {
    all.push(text(tag), u32(payload.length), payload, new Uint8Array((8 - (payload.length % 8)) % 8))
  }
  const b = of(...all)
  return b.buffer.slice(b.byteOffset, b.byteOffset + b.length)
}

const readout = {
  paths: [],
  parts: [],
  rigs: [],
  fixtures: [],
  materials: [],
  wheels: 0,
  groundMaterial: 0,
  meshes: ['m'],
  wheelMeshes: [],
  moulds: [],
}
const picture = [
  ['POSE', of(u32(1, 0, 1, 0), f32(1, 2, 3, 0, 0, 0, 1), f32(4, 5, 6, 0, 0, 0, 1))],
  ['LOOK', of(f32(1, 2, 3, 0, 0, 0, 1, 0.5))],
  ['VALV', of(f64(0.25, 8))],
  ['PATH', of(u32(1, 2), f32(0, 0, 0, 0, 0, 2), f32(0, 2))],
  ['WHEL', of(u32(0, 1), f32(0, 1, 2, 0, 0, 0, 1, 1, 3, 4))],
  ['WAIT', of(u32(0))],
  ['PIEC', of(u32(0, 1), f64(1.5, 0, 90), f64(2.5), f32(1, 2, 3, 0, 0, 0, 1, 1, 1, 1))],
  ['BODY', of(u32(2, 1), f64(0, 3), f32(1, 2, 3, 4, 5, 6), new Int16Array([1, 2, 3, 4, 5, 32767]))],
  ['JOIN', of(u32(2, 1), f32(7, 8, 9))],
]
const scene = message(1, [
  ['READ', text(JSON.stringify(readout))],
  ['MESH', of(text('0123456789abcdef'), u32(1, 3, 1, 0), f32(1, 2, 3), f32(0, 1, 0), u32(0, 0, 0), f32(5, 6))],
  ...picture,
])
const whole = readMessage(scene)

// Each is read whole or said to be unreadable, whatever was done to it.
const tally = { read: 0, unreadable: 0, other: [] }
function tried(buffer) {
  try {
    readMessage(buffer)
    tally.read++
  } catch (e) {
    if (e instanceof Unreadable) tally.unreadable++
    else tally.other.push(`${e}`)
  }
}
let cuts = 0
for (let n = 0; n < scene.byteLength; n++) {
  const before = tally.unreadable
  tried(scene.slice(0, n))
  cuts += tally.unreadable - before
}
let seed = 1
const chance = (n) => (seed = (seed * 48271) % 2147483647) % n // Park and Miller, 1988
for (let n = 0; n < 20000; n++) {
  const b = scene.slice(0)
  const v = new DataView(b)
  for (let k = chance(3); k >= 0; k--) {
    const at = 4 * chance(b.byteLength / 4)
    if (chance(2)) v.setUint32(at, [0, 1, 2, 4294967295, 65536, 1e9, v.getUint32(at, true) + 1][chance(7)], true)
    else v.setUint8(at + chance(4), chance(256))
  }
  tried(b)
}

console.log(
  JSON.stringify({
    whole: { ...whole, meshes: Object.fromEntries(whole.meshes) },
    length: scene.byteLength,
    cuts,
    tally,
    sections: picture.map(([tag, payload]) => {
      // One byte pair too few or too many in any section is seen.
      const seen = (p) => {
        try {
          readMessage(message(2, [[tag, p]]))
          return 'read'
        } catch (e) {
          return e instanceof Unreadable ? 'unreadable' : `${e}`
        }
      }
      return [
        tag,
        seen(payload),
        seen(payload.subarray(0, payload.length - 2)),
        seen(of(payload, u32(0), u32(0).subarray(1))),
      ]
    }),
    types: [
      wrongIn('Readout', { ...readout, meshes: undefined }) ?? '',
      wrongIn('Readout', { ...readout, wheels: 1.5 }) ?? '',
      wrongIn('Readout', { ...readout, later: 'a newer server says more' }) ?? '',
      wrongIn('Readout', {
        ...readout,
        reach: [
          [0, 0, 0],
          [1, 1],
        ],
      }) ?? '',
      wrongIn('Rig', {
        id: 'r',
        name: 'r',
        path: 'p',
        part: 'q',
        facing: { mode: 'sideways' },
        travel: 0,
        rider: {},
      }) ?? '',
      wrongIn('Rig', {
        id: 'r',
        name: 'r',
        path: 'p',
        part: 'q',
        facing: { mode: 'steady' },
        travel: { spood: 1 },
        rider: {},
      }) ?? '',
      wrongIn('Moved', null) ?? '',
    ],
  }),
)
await vite.close()
