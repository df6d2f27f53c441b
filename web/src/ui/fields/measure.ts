import { useCallback, useState } from 'react'

/** Both strips begin their plots here, pixels from their left edge. */
export const gutter = 92

/** The width of an element in pixels, kept up to date, and no less than so many. */
export const useWidth = <T extends HTMLElement>(least = 300) => useExtent<T>('clientWidth', 976, least)

/** Its height, in the same way. */
export const useHeight = <T extends HTMLElement>(least = 60) => useExtent<T>('clientHeight', 150, least)

/** One observer for as long as the element is there, whatever is drawn anew meanwhile. */
function useExtent<T extends HTMLElement>(side: 'clientWidth' | 'clientHeight', first: number, least: number) {
  const [extent, setExtent] = useState(first)
  const ref = useCallback(
    (el: T | null) => {
      if (!el) return
      const seen = new ResizeObserver(() => setExtent(Math.max(el[side], least)))
      seen.observe(el)
      return () => seen.disconnect()
    },
    [side, least],
  )
  return [ref, extent] as const
}
