import { Color } from 'three'
import type { Roles } from './theme'

/** A material's colour under the light of a theme: at night what is dark is lifted off the ground. */
export function shownColour(colour: string, roles: Roles, chosen: boolean): Color {
  const night = new Color(roles.viewBottom).getHSL({ h: 0, s: 0, l: 0 }).l < 0.5
  const c = new Color(colour)
  if (night) c.lerp(new Color(roles.ink), 0.12)
  return chosen ? c : c.lerp(new Color(roles.viewBottom), 0.45)
}
