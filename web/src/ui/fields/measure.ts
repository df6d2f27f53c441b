import { useLayoutEffect, useRef, useState } from 'react'

/** Both strips begin their plots here, pixels from their left edge. */
export const gutter = 92

/** The width of an element in pixels, kept up to date, and no less than so many. */
export function useWidth<T extends HTMLElement>(least = 300) {
  const ref = useRef<T>(null)
  const [width, setWidth] = useState(976)
  useLayoutEffect(() => {
    const el = ref.current
    if (!el) return
    const seen = new ResizeObserver(() => setWidth(Math.max(el.clientWidth, least)))
    seen.observe(el)
    return () => seen.disconnect()
  })
  return [ref, width] as const
}
