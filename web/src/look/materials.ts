import { Color } from 'three'
import type { PartShape } from '../core/page.generated'
import type { Roles } from './theme'

/** What a thing is made of in the view: quiet, told apart by lightness first. */
export interface Material {
  colour: string
  /** Of the lower side, where it is another. */
  belly?: string
  roughness: number
  metalness: number
}

const rubber = { colour: '#565E61', roughness: 0.92, metalness: 0 }
const steel = { colour: '#7E8890', roughness: 0.5, metalness: 0.3 }
export const galvanised = { colour: '#AEB6B5', roughness: 0.62, metalness: 0.2 }
const paint = { colour: '#6E8CA0', roughness: 0.7, metalness: 0 }
const chalk = { colour: '#DCD3BF', roughness: 0.85, metalness: 0 }
export const rope: Material = { colour: '#B79B66', roughness: 0.95, metalness: 0 }
const skin = { colour: '#5C6650', belly: '#C9C2A4', roughness: 0.45, metalness: 0 }
const shell: Material = { colour: '#A9674B', roughness: 0.6, metalness: 0 }
const sailcloth = { colour: '#E9E1CE', roughness: 0.9, metalness: 0 }
/** Of what a roll lays out. */
export const matting: Material = { colour: '#8FA3A8', roughness: 0.95, metalness: 0 }
const stone = { colour: '#B5AE9F', roughness: 0.95, metalness: 0 }

const made: Record<keyof PartShape, Material> = {
  shoe: rubber,
  tube: rubber,
  link: steel,
  coil: steel,
  post: galvanised,
  dart: paint,
  file: paint,
  box: chalk,
  float: chalk,
  plank: chalk,
  strands: rope,
  eel: skin,
  strip: sailcloth,
  sheet: matting,
  figure: shell,
}

/** Names of meshes that are of stone: of a file nothing else is known. */
const stony = /terrace|quay|stone|rock|slab|wall|floor|stair|step|ground|bed\b/i

/**
 * What a part is made of, by its shape; a block that stands about is of stone, one that rides is
 * painted. Of a mesh from a file its name is asked.
 */
export function materialOf(shape: PartShape | undefined, stands?: 'still' | 'riding', name = ''): Material {
  const kind = shape && (Object.keys(made) as (keyof PartShape)[]).find((k) => shape[k] !== undefined)
  if (kind === 'file' && stony.test(name)) return stone
  if (stands && kind === 'box') return stands === 'still' ? stone : paint
  return kind ? made[kind] : galvanised
}

/** A material's colour under the light of a theme: at night what is dark is lifted off the ground. */
export function shownColour(colour: string, roles: Roles, chosen: boolean): Color {
  const night = new Color(roles.viewBottom).getHSL({ h: 0, s: 0, l: 0 }).l < 0.5
  const c = new Color(colour)
  if (night) c.lerp(new Color(roles.ink), 0.12)
  return chosen ? c : c.lerp(new Color(roles.viewBottom), 0.45)
}
