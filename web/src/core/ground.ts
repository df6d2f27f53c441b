/** The height of a profile of the ground (z, height, z, ...) at z; nothing of level ground, which is height 0. */
export function groundAt(profile: readonly number[] | undefined, z: number): number | undefined {
  if (!profile || profile.length < 4) return undefined
  const n = profile.length / 2
  if (z <= profile[0]!) return profile[1]
  if (z >= profile[2 * n - 2]!) return profile[2 * n - 1]
  let lo = 0
  let hi = n - 1
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1
    if (profile[2 * mid]! <= z) lo = mid
    else hi = mid
  }
  const [a, b] = [profile[2 * lo]!, profile[2 * hi]!]
  const u = b > a ? (z - a) / (b - a) : 0
  return profile[2 * lo + 1]! * (1 - u) + profile[2 * hi + 1]! * u
}
