import { replaceEqualDeep } from '@tanstack/react-query'
import type { Readout, RigReadout } from '../core/page.generated'

/** What geometry and materials are made of, of a scene and of a rig: most answers do not change it. */
const ofScene = ['meshes', 'wheelMeshes', 'moulds', 'parts', 'materials', 'ground'] as const
const ofRig = ['kinds', 'colours', 'cycle'] as const

/** What of an answer says the same as the one before stays the same object, so that nothing is made of it anew. */
export function steady(was: Readout | undefined, now: Readout): Readout {
  if (!was) return now
  for (const key of ofScene) keep(was, now, key)
  const before = new Map<string, RigReadout>(was.rigs.map((r) => [r.id, r]))
  for (const r of now.rigs) {
    const old = before.get(r.id)
    if (old) for (const key of ofRig) keep(old, r, key)
  }
  return now
}

function keep<T, K extends keyof T>(was: T, now: T, key: K) {
  if (now[key] !== undefined) now[key] = replaceEqualDeep(was[key], now[key])
}
