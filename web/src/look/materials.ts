import { Color } from 'three'
import type { PartShape } from '../core/page.generated'

/** What a thing is made of in the view: quiet, told apart by lightness first. */
export interface Material {
  colour: string
  /** Of the lower side, where it is another. */
  belly?: string
  roughness: number
  metalness: number
}

const rubber = { colour: '#4A5153', roughness: 0.92, metalness: 0 }
const steel = { colour: '#7E8890', roughness: 0.5, metalness: 0.3 }
export const galvanised = { colour: '#AEB6B5', roughness: 0.62, metalness: 0.2 }
const paint = { colour: '#6E8CA0', roughness: 0.7, metalness: 0 }
const chalk = { colour: '#DCD3BF', roughness: 0.85, metalness: 0 }
const rope = { colour: '#B79B66', roughness: 0.95, metalness: 0 }
const skin = { colour: '#5C6650', belly: '#C9C2A4', roughness: 0.45, metalness: 0 }
const sailcloth = { colour: '#E9E1CE', roughness: 0.9, metalness: 0 }
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
}

/** What a part is made of, by its shape; what stands about as a block is of stone. */
export function materialOf(shape: PartShape | undefined, stands = false): Material {
  const kind = shape && (Object.keys(made) as (keyof PartShape)[]).find((k) => shape[k] !== undefined)
  if (stands && kind === 'box') return stone
  return kind ? made[kind] : galvanised
}

/** A colour on its way to the view's ground: of what is not chosen. */
export function paler(colour: string, ground: string): Color {
  return new Color(colour).lerp(new Color(ground), 0.45)
}
