import type { Document, Material, Part, PartShape, Path } from './page.generated'
import { fabrics, isLoop, newParts } from './forms'
import { freeId, freeName } from './value'

// Adds things to a scene.

/** Adds a part under a free id and name and returns its id. */
export function addPart(d: Document, name: string, shape: PartShape): string {
  const part: Part = { id: freeId(d.parts, name), name: freeName(d.parts, name), shape, forward: '+z', up: '+y' }
  // A block stands on its path.
  if (shape.box) part.pivot = [0, -shape.box.height / 2, 0]
  d.parts.push(part)
  return part.id
}

/** Adds a material like another under a free id and name and returns its id. */
export function addMaterial(d: Document, like: Material): string {
  const list = (d.materials ??= [])
  const id = freeId(list, like.name)
  list.push({ ...structuredClone(like), id, name: freeName(list, like.name) })
  return id
}

/** The links of a chain of a pitch: inner and outer ones, made where there are none. */
function addLinks(d: Document, pitch: number): [string, string] {
  const of = (outer: boolean) => {
    const there = d.parts.find((p) => p.shape.link?.pitch === pitch && !!p.shape.link.outer === outer)
    if (there) return there.id
    const size = (k: number) => Number((pitch * k).toPrecision(6))
    return addPart(d, outer ? 'Outer link' : 'Inner link', {
      link: {
        pitch,
        width: size(0.61),
        height: size(0.92),
        plate: size(0.13),
        roller: size(0.33),
        ...(outer ? { outer } : {}),
      },
    })
  }
  return [of(false), of(true)]
}

/** A chain finer than this has links, a coarser belt on a sprocket has shoes; metres. */
const chainPitch = 0.08

/** Adds the links or shoes that fit a sprocket, on their pins, and returns the rig's id. */
function addChain(d: Document, path: Path, pitch: number): string {
  const chain = pitch < chainPitch
  const size = (k: number) => Number((pitch * k).toPrecision(6))
  const [part, outer] = chain
    ? addLinks(d, pitch)
    : [
        d.parts.find((p) => p.shape.shoe?.length === pitch)?.id ??
          addPart(d, 'Shoe', {
            shoe: { length: pitch, width: size(2.7), height: size(0.23), grouser: size(0.19), horn: size(0.37) },
          }),
      ]
  const id = freeId(d.rigs, path.name + (chain ? ' chain' : ' tread'))
  d.rigs.push({
    id,
    name: freeName(d.rigs, `${path.name} ${chain ? 'chain' : 'tread'}`),
    path: path.id,
    part,
    facing: { mode: 'loopside' },
    travel: 0,
    train: {
      seat: 'ends',
      spacing: { mode: 'close up', pitch },
      ...(outer ? { others: [{ part: outer, every: 2 }] } : {}),
    },
  })
  return id
}

/**
 * Lets a belt keep the length of a number of links on their pins, and the trains on it have as
 * many. What is too long then hangs behind the last of two wheels, or a plain wheel takes it up.
 */
export function keepLinks(d: Document, path: Path, links: number, pitch: number) {
  const wrap = path.shape.wrap!
  wrap.keep = { links, pitch: Number(pitch.toPrecision(9)), pins: true }
  const on = wrap.wheels.filter((w) => !w.free)
  wrap.anchor ??= wrap.wheels.findIndex((w) => w.ground || (w.teeth && !w.free)) + 1 || undefined
  if (!on.some((w) => w.slack || w.takeUp || w.spring)) {
    const far = (w: (typeof on)[number]) => Math.abs(w.at[2] - on[0]!.at[2])
    const plain = on.filter((w) => !w.teeth && !w.ground).sort((a, b) => far(b) - far(a))[0]
    if (on.length === 2 || !plain) on.at(-1)!.slack = true
    else plain.takeUp = { angle: plain.at[2] < on[0]!.at[2] ? 180 : 0, in: pitch, out: pitch }
  }
  for (const r of d.rigs) {
    if (r.path === path.id && r.train) Object.assign(r.train.spacing, { mode: 'set count', count: links })
  }
}

/**
 * Adds a train on a path and returns its id; a part is made if there is none. Round a sprocket it
 * is of links that fit it, as many as the belt's length asks for, in metres.
 */
export function addTrain(d: Document, path: Path, length?: number): string {
  const closed = isLoop(path.shape)
  const sprocket = path.shape.wrap?.wheels.find((w) => w.teeth && w.pitch && !w.free)
  if (sprocket && !path.shape.wrap!.ends) {
    const id = addChain(d, path, sprocket.pitch!)
    const train = d.rigs.at(-1)!.train!
    const keep = path.shape.wrap!.keep
    const even = train.others ? 2 : 1 // inner links and outer ones by turns
    const asked = (length ?? 0) / sprocket.pitch!
    const two = path.shape.wrap!.wheels.filter((w) => !w.free).length === 2
    if (!keep && asked > 2) {
      keepLinks(d, path, even * (two ? Math.ceil(asked / even) : Math.round(asked / even)), sprocket.pitch!)
    } else if (keep) Object.assign(train.spacing, { mode: 'set count', count: keep.links })
    return id
  }
  const standing = new Set(d.fixtures?.map((f) => f.part))
  // The part that was made last. A tread's shoe is for loops; on an open path blocks stand.
  const fit = d.parts.findLast((p) => !standing.has(p.id) && (closed || !p.shape.shoe))
  const part = fit?.id ?? addPart(d, ...newParts.find(([, s]) => (closed ? s.shoe : s.box))!)
  const id = freeId(d.rigs, path.name + ' train')
  d.rigs.push({
    id,
    name: freeName(d.rigs, `${path.name} train`),
    path: path.id,
    part,
    facing: { mode: closed ? 'loopside' : 'steady' },
    travel: 0,
    train: { seat: 'pivot', spacing: { mode: 'close up' } },
  })
  return id
}

/** Shapes that bend well. */
const bodyShapes = ['eel', 'tube', 'plank', 'dart', 'coil', 'strip', 'strands'] as const

/** Adds a body on a path and returns its id: of the last part that bends well, or of an eel that is made. */
export function addBody(d: Document, path: Path, wish?: string): string {
  const standing = new Set(d.fixtures?.map((f) => f.part))
  const fit = d.parts.filter((p) => !standing.has(p.id) && (bodyShapes.some((k) => p.shape[k]) || p.shape.file))
  const part =
    (wish ? d.parts.find((p) => p.id === wish)?.id : fit.at(-1)?.id) ??
    addPart(d, 'Eel', { eel: { length: 1.2, girth: 0.14 } })
  const id = freeId(d.rigs, path.name + ' body')
  d.rigs.push({
    id,
    name: freeName(d.rigs, `${path.name} body`),
    path: path.id,
    part,
    facing: { mode: isLoop(path.shape) ? 'loopside' : 'steady' },
    travel: 0,
    body: { fit: 'own length', anchor: 'tail' },
  })
  return id
}

/** Adds cloth that hangs from a path, of the last sheet or of one that is made; returns its id. */
export function addDrape(d: Document, path: Path, wish?: string): string {
  const part =
    d.parts.find((p) => p.id === wish && (p.shape.sheet || p.shape.file))?.id ??
    d.parts.findLast((p) => p.shape.sheet)?.id ??
    addPart(d, ...newParts.find(([, s]) => s.sheet)!)
  const id = freeId(d.rigs, path.name + ' cloth')
  d.rigs.push({
    id,
    name: freeName(d.rigs, `${path.name} cloth`),
    path: path.id,
    part,
    facing: { mode: 'steady' },
    travel: 0,
    drape: {
      fabric: { ...fabrics.find((f) => f.name === 'Sheet')!.fabric },
      damping: 1,
      friction: 0.3,
      settle: 1,
      wrinkle: 0.002,
      seed: 1,
    },
  })
  return id
}

/** Sends a part that is a figure along a path, at the pace of its own keys; returns its rig's id. */
export function addCycle(d: Document, path: Path, part: string, pace: number): string {
  const name = d.parts.find((p) => p.id === part)!.name
  const id = freeId(d.rigs, name)
  d.rigs.push({
    id,
    name: freeName(d.rigs, name),
    path: path.id,
    part,
    facing: { mode: 'steady' },
    travel: pace > 0 ? { speed: Number(pace.toPrecision(6)), start: 0 } : 0,
    cycle: pace > 0 ? {} : { stride: 1 },
  })
  return id
}

/** What a drum can pay out of a path: a hanging cable, or a belt with ends. */
export const paysOut = (path?: Path) => path?.shape.hang ?? path?.shape.wrap?.ends

/** Adds a drum at the start of a hanging cable or an open belt, which it pays out over the range; returns its id. */
export function addDrum(d: Document, path: Path): string {
  const rope = paysOut(path)
  const length = rope?.length ?? 4
  const size = (k: number) => Number((length * k).toPrecision(3))
  const radius = size(0.025)
  const part = addPart(d, 'Drum', { tube: { length: size(0.07), radius, bore: size(0.012) } })
  d.parts.find((p) => p.id === part)!.forward = '+x'
  const id = freeId(d.rigs, path.name + ' drum')
  if (d.rigs.length === 0) d.plays = 'once'
  if (rope) rope.drum = id
  d.rigs.push({
    id,
    name: freeName(d.rigs, `${path.name} drum`),
    path: path.id,
    part,
    facing: { mode: 'steady' },
    travel: {
      keys: [
        { frame: d.range.first, value: 0, shape: 'eased' },
        { frame: d.range.last, value: size(0.4), shape: 'eased' },
      ],
    },
    drum: { radius, width: size(0.06), rope: size(0.004), wound: size(1) },
  })
  return id
}

/** Adds a roll on a path, whose sheet is as long as that, and lets it lay it out over the range; returns its id. */
export function addPayout(d: Document, path: Path, length = 8): string {
  const size = (k: number) => Number((length * k).toPrecision(4))
  const width = size(0.2)
  const core = size(0.012)
  const part = addPart(d, 'Core', { tube: { length: size(0.208), radius: core, bore: size(0.0084) } })
  d.parts.find((p) => p.id === part)!.forward = '+x'
  const thickness = size(0.0012)
  const radius = Math.sqrt(core * core + (length * thickness) / Math.PI)
  const id = freeId(d.rigs, path.name + ' roll')
  if (d.rigs.length === 0) d.plays = 'once' // a sheet that has been laid does not come back
  d.rigs.push({
    id,
    name: freeName(d.rigs, `${path.name} roll`),
    path: path.id,
    part,
    facing: { mode: 'steady' },
    travel: {
      keys: [
        { frame: d.range.first, value: 0, shape: 'straight' },
        { frame: d.range.last, value: size(0.8), shape: 'straight' },
      ],
    },
    payout: { width, thickness, radius: Number(radius.toPrecision(9)), core },
  })
  return id
}

/** Adds a rider on a path and returns its id; it goes along with the head of a train or body there. */
export function addRider(d: Document, path: Path): string {
  const part = addPart(d, 'Lamp', { float: { length: 0.2, radius: 0.07 } })
  const id = freeId(d.rigs, path.name + ' rider')
  const lead = d.rigs.find((r) => r.path === path.id && (r.train ?? r.body))
  d.rigs.push({
    id,
    name: freeName(d.rigs, `${path.name} rider`),
    path: path.id,
    part,
    facing: { mode: isLoop(path.shape) ? 'loopside' : 'steady' },
    travel: 0,
    rider: lead ? { lead: { rig: lead.id, at: 'head' } } : {},
  })
  return id
}

/** Adds a carrier and returns its id. */
export function addCarrier(d: Document): string {
  d.carriers ??= []
  const name = freeName(d.carriers, 'Carrier')
  const id = freeId(d.carriers, name)
  d.carriers.push({ id, name, at: [0, 0, 0] })
  return id
}

/** Adds a tug on a point of a path, counted from 1, and returns its id. */
export function addTug(d: Document, path: string, point: number): string {
  d.tugs ??= []
  const name = freeName(d.tugs, 'Handle')
  const id = freeId(d.tugs, name)
  d.tugs.push({ id, name, path, points: [point], pull: [0, 0, 0] })
  return id
}
