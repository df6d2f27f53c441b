/** Where the rows of the length strip lie, pixels from its top. */
export const rows = { head: 15, marks: 38, curveTop: 46, curve: 73, pieces: 97, roll: 117, travel: 132, ruler: 136 }

/** A place on the screen in the strip's own pixels. */
export const local = (svg: React.RefObject<SVGSVGElement | null>, clientX: number) =>
  clientX - (svg.current?.getBoundingClientRect().left ?? 0)

export const trim = (v: number) => String(Number(v.toPrecision(3)))
