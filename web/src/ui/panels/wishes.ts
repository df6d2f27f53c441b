import type { Format } from '../../core/page.generated'
import type { Asks, Wish } from '../../stores/deliver'

/** The choices that a destination sets. */
export const choices = [
  'paths',
  'single',
  'centred',
  'exact',
  'inPlace',
  'ownKeys',
  'time',
  'flat',
  'perRig',
  'imageSizes',
  'instances',
  'plane',
  'units',
  'closing',
] as const satisfies (keyof Wish)[]

/** What is sent: of the wish what the format holds. */
export function asked(w: Wish, f: Format, rigs: string[]): Asks {
  const single = !!f.single && !!w.single
  return {
    format: f.ending,
    first: w.first,
    last: w.last,
    rigs,
    step: f.still ? undefined : w.step,
    closing: !f.still && w.closing,
    paths: f.lines && w.paths,
    single,
    centred: single && w.centred,
    density: f.solver && w.solver ? w.density : 0,
    exact: f.exact && w.exact,
    inPlace: f.figures && w.inPlace,
    ownKeys: f.keys && w.ownKeys && (w.step ?? 1) < 2,
    tolerance: w.tolerance,
    time: f.nested ? w.time : undefined,
    flat: f.nested && w.flat,
    perRig: f.keys && w.perRig,
    imageSizes: f.keys && w.imageSizes,
    instances: f.instances && w.instances && !single,
    clipMB: f.clips ? w.clipMB : undefined,
    plane: f.drawn ? w.plane : undefined,
    units: f.units && w.units,
  }
}
