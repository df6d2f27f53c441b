import { useThree } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import {
  MeshStandardMaterial,
  NoColorSpace,
  RepeatWrapping,
  SRGBColorSpace,
  TextureLoader,
  type BufferGeometry,
  type Texture,
} from 'three'
import { imageAddress } from '../api/client'
import type { Material, PartReadout } from '../core/page.generated'
import { shownColour } from '../look/materials'
import type { Roles } from '../look/theme'
import { useBench } from '../stores/bench'

// What things look like in the view: the readout's materials as three's, each with its images at their size.

const loaded = new Map<string, Promise<Texture>>()
const loader = new TextureLoader()

/** An image of a material, loaded once. */
function imageOf(asset: string): Promise<Texture> {
  let t = loaded.get(asset)
  if (!t) {
    t = loader.loadAsync(imageAddress(asset))
    loaded.set(asset, t)
    // One that could not be had is asked for again.
    t.catch(() => loaded.delete(asset))
  }
  return t
}

/** Waits until all images that are wanted have come, or cannot be had. */
export const imagesReady = () => Promise.allSettled(loaded.values()).then(() => undefined)

/** The size of an image on a thing, metres across and along; as `Images.Size` has it. */
export function imageSize(i: NonNullable<Material['images']>): [number, number] {
  const width = i.width || i.length || 1
  return [width, i.length || width]
}

export interface Finish {
  made: Material
  /** Used in place of its own colour. */
  tint?: string
  /** Its colour comes from elsewhere: from instances or vertices. */
  white?: boolean
  /** By how much its length is drawn out; images keep their size. */
  drawn?: number
  /** The mesh lies on its images as its file has it. */
  tiles?: boolean
}

/**
 * Materials of the groups of a mesh, or one for a mesh without groups. They are disposed of with what they were
 * made for.
 */
export function useFinishes(
  finishes: Finish[],
  roles: Roles,
  chosen: boolean,
  more?: Partial<MeshStandardMaterial>,
): MeshStandardMaterial | MeshStandardMaterial[] {
  const invalidate = useThree((s) => s.invalidate)
  const key = JSON.stringify([finishes, more])
  const all = useMemo(
    () =>
      finishes.map(({ made, tint, white }) => {
        const opacity = made.opacity || 1
        const m = new MeshStandardMaterial({
          color: white ? '#ffffff' : shownColour(tint ?? made.colour, roles, chosen),
          roughness: made.roughness,
          metalness: made.metalness ?? 0,
          opacity,
          transparent: opacity < 1,
          depthWrite: opacity === 1,
        })
        return Object.assign(m, more)
      }),
    // The key holds everything that the finishes say.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key, roles, chosen],
  )
  useEffect(() => {
    let gone = false
    const own: Texture[] = []
    finishes.forEach(({ made, drawn, tiles }, k) => {
      const images = made.images
      if (!images) return
      const [across, along] = imageSize(images)
      for (const field of ['colour', 'normal', 'rough'] as const) {
        const asset = images[field]
        if (!asset) continue
        void imageOf(asset).then(
          (shared) => {
            if (gone) return
            const t = shared.clone()
            t.wrapS = t.wrapT = RepeatWrapping
            t.colorSpace = field === 'colour' ? SRGBColorSpace : NoColorSpace
            t.anisotropy = 8
            if (!tiles || images.width || images.length) t.repeat.set(1 / across, (drawn ?? 1) / along)
            own.push(t)
            const m = all[k]!
            if (field === 'colour') m.map = t
            else if (field === 'normal') m.normalMap = t
            else {
              m.roughnessMap = m.metalnessMap = t
              m.metalness = made.metalness || 1
            }
            m.needsUpdate = true
            invalidate()
          },
          () => {
            useBench.getState().say(`An image of ${made.name} is not in this store: choose it again.`)
          },
        )
      }
    })
    invalidate()
    return () => {
      gone = true
      for (const t of own) t.dispose()
      for (const m of all) m.dispose()
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [all, invalidate])
  return all.length === 1 ? all[0]! : all
}

/** Tells a mesh's surfaces apart, so that each has its own material. */
export function groupsOn(geometry: BufferGeometry, part: PartReadout | undefined, pieces = 1) {
  const groups = part?.groups ?? []
  if (groups.length < 2) return
  const all = groups.reduce((n, g) => n + g.count, 0)
  for (let i = 0; i < pieces; i++) {
    groups.forEach((g, k) => geometry.addGroup(i * all + g.first, g.count, k))
  }
}
