import { useThree, type ThreeElements } from '@react-three/fiber'
import { useEffect, useLayoutEffect, useState } from 'react'
import { InstancedInterleavedBuffer, InterleavedBufferAttribute, type Vector3 } from 'three'
import { LineMaterial } from 'three/addons/lines/LineMaterial.js'
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js'
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js'

type Place = Vector3 | readonly [number, number, number]

/** Places one after the other, or their coordinates in one array. */
type Places = readonly Place[] | Float32Array

interface Look {
  color: string
  /** Pixels. */
  lineWidth?: number
  depthTest?: boolean
  transparent?: boolean
  opacity?: number
}

type OfObject = Omit<ThreeElements['lineSegments'], 'args' | 'ref' | 'material' | 'geometry' | 'children'>

/**
 * A line through places, or with segments between each two of them. It is made once: other places are put into the
 * room that it has, so that what moves makes no geometry, material or program in any frame.
 */
export function Line({
  points,
  segments = false,
  dash,
  color,
  lineWidth = 1,
  depthTest = true,
  transparent = false,
  opacity = 1,
  ...rest
}: Look &
  OfObject & {
    points: Places
    segments?: boolean
    /** Metres of a dash and of the gap behind it. */ dash?: [number, number]
  }) {
  const invalidate = useThree((s) => s.invalidate)
  const [line] = useState(() => new LineSegments2(new LineSegmentsGeometry(), new LineMaterial({ dashed: !!dash })))
  useLayoutEffect(() => {
    lay(line.geometry, points, segments)
    invalidate()
  }, [line, points, segments, invalidate])
  useEffect(
    () => () => {
      line.geometry.dispose()
      line.material.dispose()
    },
    [line],
  )
  return (
    <primitive
      object={line}
      material-color={color}
      material-linewidth={lineWidth}
      material-depthTest={depthTest}
      material-transparent={transparent}
      material-opacity={opacity}
      material-dashSize={dash?.[0] ?? 1}
      material-gapSize={dash?.[1] ?? 1}
      {...rest}
    />
  )
}

const axes = ['x', 'y', 'z'] as const

/** Puts a line's places into its geometry; what is over of its room lies on the last place. */
function lay(g: LineSegmentsGeometry, points: Places, segments: boolean) {
  const flat = points instanceof Float32Array
  const places = flat ? points.length / 3 : points.length
  const count = segments ? places >> 1 : Math.max(places - 1, 0)
  const coordinate = (i: number, k: number) => {
    if (flat) return points[3 * i + k]!
    const p = points[i]!
    return 'x' in p ? p[axes[k]!] : p[k]!
  }
  const { ends, along } = roomOf(g, count)
  const to = ends.array
  let way = 0
  for (let s = 0; s < to.length / 6; s++) {
    const from = Math.min(s, count - 1) * (segments ? 2 : 1)
    let square = 0
    for (let k = 0; k < 3; k++) {
      const a = count ? coordinate(s < count ? from : from + 1, k) : 0
      const b = count ? coordinate(from + 1, k) : 0
      to[6 * s + k] = a
      to[6 * s + 3 + k] = b
      square += (b - a) ** 2
    }
    along.array[2 * s] = way
    along.array[2 * s + 1] = way += Math.sqrt(square)
  }
  ends.needsUpdate = along.needsUpdate = true
  g.instanceCount = count
  g.computeBoundingBox()
  g.computeBoundingSphere()
}

/** A geometry's room for so many segments: their ends, and how far along the line those are, for dashes. */
function roomOf(g: LineSegmentsGeometry, count: number) {
  const has = (name: string) => (g.getAttribute(name) as InterleavedBufferAttribute | undefined)?.data
  const [ends, along] = [has('instanceStart'), has('instanceDistanceStart')]
  if (ends && along && ends.array.length >= 6 * count) return { ends, along }
  g.dispose() // the room that it had
  const size = 2 ** Math.ceil(Math.log2(Math.max(count, 1)))
  const made = (name: string, each: number) => {
    const data = new InstancedInterleavedBuffer(new Float32Array(2 * each * size), 2 * each, 1)
    g.setAttribute(`${name}Start`, new InterleavedBufferAttribute(data, each, 0))
    g.setAttribute(`${name}End`, new InterleavedBufferAttribute(data, each, each))
    return data
  }
  return { ends: made('instance', 3), along: made('instanceDistance', 1) }
}
