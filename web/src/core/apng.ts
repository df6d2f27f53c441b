// Animated PNG (PNG specification, third edition, W3C 2025, 11.3.6): pictures of one size, each a PNG of its own.

const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]

interface Chunk {
  type: string
  data: Uint8Array
}

function chunksOf(png: Uint8Array): Chunk[] {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength)
  const out: Chunk[] = []
  for (let at = 8; at + 12 <= png.length;) {
    const bytes = view.getUint32(at)
    out.push({
      type: String.fromCharCode(...png.subarray(at + 4, at + 8)),
      data: png.subarray(at + 8, at + 8 + bytes),
    })
    at += 12 + bytes
  }
  return out
}

const table = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  return c >>> 0
})

function crc(bytes: Uint8Array): number {
  let c = 0xffffffff
  for (const b of bytes) c = table[(c ^ b) & 255]! ^ (c >>> 8)
  return (c ^ 0xffffffff) >>> 0
}

/** Puts PNGs of one size together to one that plays at so many frames a second, for ever or once. */
export function animated(pngs: ArrayLike<number>[], fps: number, loops: boolean): Uint8Array<ArrayBuffer> {
  const parts: Uint8Array[] = [Uint8Array.from(signature)]
  const add = (type: string, data: Uint8Array) => {
    const chunk = new Uint8Array(12 + data.length)
    const view = new DataView(chunk.buffer)
    view.setUint32(0, data.length)
    for (let i = 0; i < 4; i++) chunk[4 + i] = type.charCodeAt(i)
    chunk.set(data, 8)
    view.setUint32(8 + data.length, crc(chunk.subarray(4, 8 + data.length)))
    parts.push(chunk)
  }
  let sequence = 0
  pngs.forEach((png, k) => {
    const chunks = chunksOf(Uint8Array.from(png))
    const head = chunks[0]!.data
    if (k === 0) {
      add('IHDR', head)
      const control = new DataView(new ArrayBuffer(8))
      control.setUint32(0, pngs.length)
      control.setUint32(4, loops ? 0 : 1)
      add('acTL', new Uint8Array(control.buffer))
    }
    const frame = new DataView(new ArrayBuffer(26))
    frame.setUint32(0, sequence++)
    for (let i = 0; i < 8; i++) frame.setUint8(4 + i, head[i]!) // width and height
    // The time of a frame as a fraction of 16 bits each.
    frame.setUint16(20, 1000)
    frame.setUint16(22, Math.min(Math.round(1000 * fps), 65535))
    add('fcTL', new Uint8Array(frame.buffer))
    for (const c of chunks) {
      if (c.type !== 'IDAT') continue
      if (k === 0) add('IDAT', c.data)
      else {
        const data = new Uint8Array(4 + c.data.length)
        new DataView(data.buffer).setUint32(0, sequence++)
        data.set(c.data, 4)
        add('fdAT', data)
      }
    }
  })
  add('IEND', new Uint8Array())
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const p of parts) {
    out.set(p, at)
    at += p.length
  }
  return out
}
