import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { OrthographicCamera, PerspectiveCamera } from '@react-three/drei'
import { Canvas, useFrame, useThree } from '@react-three/fiber'
import { useEffect, useRef, useState } from 'react'
import { Vector3 } from 'three'
import type { OrbitControls as Controls } from 'three-stdlib'
import { useBench } from '../stores/bench'
import { usePrefs, useQuality, useView, type ViewName } from '../stores/prefs'
import { takeStill } from '../stores/still'
import type { Roles } from '../look/theme'
import { mono } from '../look/theme'
import {
  AboveIcon,
  AheadIcon,
  AlongsideIcon,
  CameraIcon,
  CornerIcon,
  FlatIcon,
  GhostsIcon,
  SideIcon,
  TrailIcon,
} from '../look/icons'
import { pictureSize } from '../core/camera'
import { Cameras, frameIn, Through } from './Cameras'
import { CameraRig } from './CameraRig'
import { fov, metresPerPixel } from './lens'
import { QualityMeter } from './QualityMeter'
import { DrawTool } from './DrawTool'
import { Comb } from './Comb'
import { eye } from './nudge'
import { EdgeTool } from './EdgeTool'
import { Carriers } from './Carriers'
import { Joints } from './Joints'
import { Pins } from './Pins'
import { Ghosts } from './Ghosts'
import { keepButtons, labelLayer } from './labelLayer'
import { CheckMark, PathMarks } from './PathMarks'
import { PathPoints } from './PathPoints'
import { useBounds } from './bounds'
import { Stage, sizeOf } from './Stage'
import { Standing } from './Standing'
import { Trail } from './Trails'
import { Tugs } from './Tugs'

const views: [Exclude<ViewName, 'free'>, string, typeof CornerIcon][] = [
  ['corner', 'Corner', CornerIcon],
  ['side', 'Side', SideIcon],
  ['ahead', 'Ahead', AheadIcon],
  ['above', 'Above', AboveIcon],
]

const keepLabels = (e: HTMLDivElement | null) => {
  if (e) labelLayer.current = e
}

/** The view: the scene in 3-D, its ready views, scale bar and compass; what lies over it is put in. */
export function View({ children }: { children?: React.ReactNode }) {
  const { roles, palette } = useTheme()
  const bounds = useBounds()
  const size = sizeOf(bounds)
  const ready = useBench((b) => !!b.answer)
  const id = useBench((b) => b.id)
  const view = useView((v) => v.view)
  const look = useView((v) => v.look)
  const alongside = useView((v) => v.alongside)
  const flat = useView((v) => v.flat)
  const trail = useView((v) => v.trail)
  const camera = useView((v) => v.through)
  const through = useBench((b) => b.answer?.doc.cameras?.findIndex((c) => c.id === camera) ?? -1)
  const ghosts = useView((v) => v.ghosts)
  const toggleAlongside = useView((v) => v.toggleAlongside)
  const quality = useQuality()
  const smooth = usePrefs((p) => p.quality !== 'rough')
  const overlay = useRef<HTMLDivElement>(null)

  useEffect(() => {
    const canvas = overlay.current?.parentElement?.querySelector('canvas')
    canvas?.setAttribute(
      'aria-label',
      'The scene in 3-D. Drag to orbit, right-drag to pan, scroll to zoom; drag a piece to pull it along its path.',
    )
    canvas?.setAttribute('role', 'img')
  })

  return (
    <Box
      sx={{
        position: 'relative',
        width: '100%',
        height: '100%',
        minHeight: 0,
        overflow: 'hidden',
        background: `linear-gradient(${roles.viewTop}, ${roles.viewBottom})`,
        touchAction: 'none',
        container: 'view / inline-size',
      }}
      data-testid="view"
    >
      <Canvas
        // Smoothing is chosen when a canvas is made.
        key={id + smooth}
        frameloop="demand"
        shadows={quality === 'fine' && 'percentage'}
        dpr={{ fine: [1, 2] as [number, number], plain: 1, rough: 0.5 }[quality]}
        gl={{ antialias: smooth, alpha: true, preserveDrawingBuffer: true }}
      >
        {through >= 0 && <Through index={through} />}
        <PerspectiveCamera makeDefault={!flat && through < 0} fov={fov} near={0.01} far={5000} position={[6, 4, 6]} />
        <OrthographicCamera makeDefault={flat && through < 0} />
        <Stage roles={roles} bounds={bounds} dark={palette.mode === 'dark'} fine={quality === 'fine'} />
        <Comb roles={roles} size={size} />
        <PathMarks roles={roles} size={size} />
        <PathPoints roles={roles} />
        <Carriers roles={roles} size={size} />
        <Standing roles={roles} size={size} />
        <Tugs roles={roles} />
        <CheckMark roles={roles} />
        <Trail roles={roles} />
        <Pins roles={roles} />
        <Joints roles={roles} />
        <Ghosts roles={roles} />
        <DrawTool roles={roles} />
        <EdgeTool roles={roles} />
        <QualityMeter />
        <Cameras roles={roles} />
        <CameraRig key={id} bounds={bounds} ready={ready} size={size} />
        <Instruments overlay={overlay} size={size} />
      </Canvas>

      <div
        ref={keepLabels}
        style={{ position: 'absolute', inset: 0, zIndex: 0, overflow: 'hidden', pointerEvents: 'none' }}
      />
      {through >= 0 && <FrameLines index={through} roles={roles} />}
      <Box
        ref={keepButtons}
        role="toolbar"
        aria-label="Ready views"
        sx={{
          position: 'absolute',
          left: 16,
          right: 16,
          top: 12,
          display: 'flex',
          flexWrap: 'wrap',
          gap: 0.5,
          pointerEvents: 'none', // beside the buttons the view is pressed
          '& > *': { pointerEvents: 'auto' },
          '@container view (max-width: 420px)': { left: 8, right: 8, gap: 0.25 },
        }}
      >
        {views.map(([name, label, Icon], i) => (
          <ViewButton
            key={name}
            label={label}
            title={`${label} (${i + 1})`}
            icon={<Icon />}
            on={view === name}
            onClick={() => look(name)}
          />
        ))}
        <Box
          sx={{
            width: '1px',
            my: 0.5,
            mx: 0.5,
            background: roles.rule,
            '@container view (max-width: 420px)': { display: 'none' },
          }}
        />
        <ViewButton
          label="Alongside"
          title="Look at what is chosen, and go along with it (A)"
          icon={<AlongsideIcon />}
          on={alongside}
          onClick={toggleAlongside}
        />
        <ViewButton
          label="Flat"
          title="Without perspective, as drawings are; Side, Ahead and Above are flat by themselves (P)"
          icon={<FlatIcon />}
          on={flat}
          onClick={() => useView.getState().toggleFlat()}
        />
        <ViewButton
          label="Trail"
          title="The way of what is chosen over the range, a dot a frame: of the piece that was pressed last, the head of a body, a carrier (T)"
          icon={<TrailIcon />}
          on={trail}
          onClick={() => useView.setState({ trail: !trail })}
        />
        <ViewButton
          label="Ghosts"
          title="The chosen rig as it was and will be, a twelfth of the range apart (H)"
          icon={<GhostsIcon />}
          on={ghosts}
          onClick={() => useView.setState({ ghosts: !ghosts })}
        />
        <ViewButton
          label="Still"
          title="Save the view as a picture (S)"
          icon={<CameraIcon />}
          on={false}
          onClick={takeStill}
        />
      </Box>

      {children}

      <div ref={overlay} style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
        {through < 0 && <ScaleBar roles={roles} />}
        {through < 0 && <Compass roles={roles} />}
      </div>
      <EmptyScene roles={roles} />
    </Box>
  )
}

/** The edge of the picture of the camera that is looked through, and how to leave it. */
function FrameLines({ index, roles }: { index: number; roles: Roles }) {
  const ref = useRef<HTMLDivElement>(null)
  const [box, setBox] = useState<[number, number]>([0, 0])
  const name = useBench((b) => b.answer?.doc.cameras?.[index]?.name)
  const aspect = useBench((b) => {
    const [w, h] = pictureSize(b.answer?.doc.cameras?.[index])
    return w / h
  })
  useEffect(() => {
    const watch = new ResizeObserver(([e]) => setBox([e!.contentRect.width, e!.contentRect.height]))
    watch.observe(ref.current!)
    return () => watch.disconnect()
  }, [])
  const height = frameIn(box[0], box[1], aspect)
  const width = height * aspect
  return (
    <div ref={ref} style={{ position: 'absolute', inset: 0, overflow: 'hidden', pointerEvents: 'none' }}>
      <div
        data-testid="frame-lines"
        style={{
          position: 'absolute',
          left: (box[0] - width) / 2,
          top: (box[1] - height) / 2,
          width,
          height,
          boxSizing: 'border-box',
          border: `1px solid ${roles.ink}`,
          boxShadow: `0 0 0 4000px ${roles.paper}99`,
        }}
      />
      <Button
        variant="contained"
        onClick={() => useView.setState({ through: null })}
        sx={{ position: 'absolute', right: 16, top: 12, height: 28, pointerEvents: 'auto' }}
      >
        Leave {name}
      </Button>
    </div>
  )
}

function ViewButton({
  label,
  title,
  icon,
  on,
  onClick,
}: {
  label: string
  title: string
  icon: React.ReactNode
  on: boolean
  onClick: () => void
}) {
  const { roles } = useTheme()
  return (
    <Button
      onClick={onClick}
      aria-label={label}
      aria-pressed={on}
      title={title}
      startIcon={icon}
      sx={{
        height: 28,
        px: 1,
        color: on ? roles.kelpText : roles.secondary,
        background: on ? roles.tint : 'transparent',
        fontWeight: on ? 600 : 500,
        '& .MuiButton-startIcon': { mr: 0.75 },
        // In a narrow view only the signs have room.
        '@container view (max-width: 660px)': {
          minWidth: 28,
          '& .MuiButton-startIcon': { m: 0 },
          '& .words': { display: 'none' },
        },
        '@container view (max-width: 420px)': { px: 0.25, minWidth: 26 },
      }}
    >
      <span className="words">{label}</span>
    </Button>
  )
}

const units: [number, string, number][] = [
  [1000, 'km', 0.001],
  [1, 'm', 1],
  [0.01, 'cm', 100],
  [0, 'mm', 1000],
]

/** Moves the scale bar and the compass with the camera, without React. */
function Instruments({ overlay, size }: { overlay: React.RefObject<HTMLDivElement | null>; size: number }) {
  const last = useRef('')
  const invalidate = useThree((s) => s.invalidate)
  useEffect(() => {
    last.current = ''
    invalidate()
  }, [size, invalidate])
  useFrame(({ camera, size: px, controls }) => {
    eye.camera = camera
    eye.height = px.height
    const root = overlay.current
    if (!root || !controls) return
    const key = camera.matrixWorld.elements.map((x) => x.toFixed(4)).join() + px.height + ' ' + camera.zoom
    if (key === last.current) return
    last.current = key
    const target = (controls as Controls).target
    eye.target.copy(target)
    if (!root.querySelector('[data-bar]')) return
    const pixel = metresPerPixel(camera, target, px.height)
    const wish = pixel * Math.min(150, px.width / 4)
    const power = 10 ** Math.floor(Math.log10(wish))
    const length =
      [1, 2, 5, 10]
        .map((k) => k * power)
        .filter((x) => x <= wish)
        .at(-1) ?? power
    const unit = units.find(([least]) => length >= least)!
    const bar = root.querySelector<HTMLElement>('[data-bar]')!
    bar.style.width = `${length / pixel}px`
    const say = (x: number) => String(Math.round(x * unit[2] * 1e4) / 1e4)
    root.querySelector('[data-half]')!.textContent = say(length / 2)
    root.querySelector('[data-full]')!.textContent = `${say(length)} ${unit[1]}`
    const inverse = camera.matrixWorldInverse
    for (const [name, axis] of [
      ['x', new Vector3(1, 0, 0)],
      ['y', new Vector3(0, 1, 0)],
      ['z', new Vector3(0, 0, 1)],
    ] as const) {
      const v = axis.transformDirection(inverse)
      const arm = root.querySelector(`[data-arm="${name}"]`)!
      arm.setAttribute('x2', String(36 + v.x * 22))
      arm.setAttribute('y2', String(32 - v.y * 22))
      const tip = root.querySelector(`[data-tip="${name}"]`)!
      tip.setAttribute('x', String(36 + v.x * 30))
      tip.setAttribute('y', String(35.5 - v.y * 30))
    }
    // The dial lies on the ground: an ellipse as flat as the ground looks.
    const tilt = Math.abs(new Vector3(0, 1, 0).transformDirection(inverse).z)
    root.querySelector('[data-dial]')!.setAttribute('ry', String(Math.max(25 * tilt, 0.5)))
  })
  return null
}

/** What lies over the view reads on a ground of any colour. */
const haloOf = (roles: Roles) => `drop-shadow(0 0 1px ${roles.viewTop}) `.repeat(3)

function ScaleBar({ roles }: { roles: Roles }) {
  return (
    <div
      data-bar
      style={{
        position: 'absolute',
        left: 20,
        bottom: 24,
        width: 150,
        color: roles.secondary,
        font: `11px/14px ${mono}`,
        filter: haloOf(roles),
      }}
    >
      <div style={{ position: 'relative', height: 16 }}>
        <span style={{ position: 'absolute', left: 0 }}>0</span>
        <span data-half style={{ position: 'absolute', left: '50%', transform: 'translateX(-50%)' }} />
        <span
          data-full
          style={{ position: 'absolute', left: '100%', transform: 'translateX(-8px)', whiteSpace: 'nowrap' }}
        />
      </div>
      <div
        style={{
          height: 4,
          border: `1px solid ${roles.secondary}`,
          background: `linear-gradient(90deg, ${roles.secondary} 50%, transparent 50%)`,
        }}
      />
    </div>
  )
}

function Compass({ roles }: { roles: Roles }) {
  const axes = [
    ['x', '#C4473A'],
    ['y', '#3F8F4E'],
    ['z', '#3A6FB5'],
  ]
  return (
    <Box
      component="svg"
      width="76"
      height="68"
      // In a small view the scene has its place.
      sx={{
        position: 'absolute',
        right: 14,
        bottom: 14,
        filter: haloOf(roles),
        '@container view (max-width: 420px)': { display: 'none' },
      }}
      aria-hidden
    >
      <ellipse data-dial cx="36" cy="32" rx="25" ry="12" fill="none" stroke={roles.border} strokeDasharray="1.5 2.5" />
      {axes.map(([name, colour]) => (
        <g key={name}>
          <line
            data-arm={name}
            x1="36"
            y1="32"
            x2="36"
            y2="32"
            stroke={colour}
            strokeWidth="1.6"
            strokeLinecap="round"
          />
          <text data-tip={name} textAnchor="middle" fontSize="11" fontFamily="IBM Plex Mono" fill={roles.secondary}>
            {name}
          </text>
        </g>
      ))}
    </Box>
  )
}

/** What to press first when there is no path yet. */
function EmptyScene({ roles }: { roles: Roles }) {
  const empty = useBench(
    (b) => b.doc !== null && b.doc.paths.length === 0 && !b.doc.fixtures?.length && b.tool.kind === 'none',
  )
  if (!empty) return null
  return (
    <Box sx={{ position: 'absolute', inset: 0, display: 'grid', placeItems: 'center', pointerEvents: 'none' }}>
      <Box sx={{ width: 360, textAlign: 'center', pointerEvents: 'auto' }}>
        <Box component="h2" sx={{ typography: 'h2', m: 0, mb: 0.5 }}>
          Everything here rides on a path
        </Box>
        <Box sx={{ color: roles.secondary, mb: 1.5 }}>
          Draw one on the ground or in a square-on view, or add a slot, circle or line from the rack. Pieces come next.
        </Box>
        <Button variant="contained" onClick={() => useBench.getState().startDrawing()}>
          Draw a path
        </Button>
      </Box>
    </Box>
  )
}
