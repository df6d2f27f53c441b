import { useLayoutEffect, useRef, useState } from 'react'

/** Both strips begin their plots here, pixels from their left edge. */
export const gutter = 92

/** The width of an element in pixels, kept up to date. */
export function useWidth<T extends HTMLElement>() {
  const ref = useRef<T>(null)
  const [width, setWidth] = useState(976)
  useLayoutEffect(() => {
    const el = ref.current
    if (!el) return
    const seen = new ResizeObserver(() => setWidth(Math.max(el.clientWidth, 300)))
    seen.observe(el)
    return () => seen.disconnect()
  })
  return [ref, width] as const
}
