import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { OrthographicCamera, PerspectiveCamera } from '@react-three/drei'
import { Canvas, useFrame, useThree } from '@react-three/fiber'
import { useEffect, useMemo, useRef } from 'react'
import { Box3, Vector3, type DirectionalLight } from 'three'
import type { OrbitControls as Controls } from 'three-stdlib'
import { useBench } from '../stores/bench'
import { usePrefs, useQuality, useView, type ViewName } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { mono } from '../look/theme'
import {
  AboveIcon,
  AheadIcon,
  AlongsideIcon,
  CornerIcon,
  FlatIcon,
  GhostsIcon,
  SideIcon,
  TrailIcon,
} from '../look/icons'
import { CameraRig } from './CameraRig'
import { fov, metresPerPixel } from './lens'
import { QualityMeter } from './QualityMeter'
import { DrawTool } from './DrawTool'
import { Comb } from './Comb'
import { eye } from './nudge'
import { EdgeTool } from './EdgeTool'
import { Carriers } from './Carriers'
import { Fixtures } from './Fixtures'
import { Pins } from './Pins'
import { Ghosts } from './Ghosts'
import { Ground } from './Ground'
import { labelLayer } from './labelLayer'
import { CheckMark, PathMarks } from './PathMarks'
import { PathPoints } from './PathPoints'
import { Standing } from './Standing'
import { Trail } from './Trails'
import { Tugs } from './Tugs'
import { Wheels } from './Wheels'
import { Bodies } from './Bodies'
import { Pieces } from './Pieces'

const views: [Exclude<ViewName, 'free'>, string, typeof CornerIcon][] = [
  ['corner', 'Corner', CornerIcon],
  ['side', 'Side', SideIcon],
  ['ahead', 'Ahead', AheadIcon],
  ['above', 'Above', AboveIcon],
]

/** The box of the whole scene with room for its pieces, metres. */
function useBounds(): Box3 {
  const answer = useBench((b) => b.answer)
  const readout = answer?.readout
  return useMemo(() => {
    const box = new Box3()
    if (readout?.reach) {
      box.set(new Vector3(...readout.reach[0]!), new Vector3(...readout.reach[1]!))
    }
    for (const p of answer?.shot.carriers ?? []) box.expandByPoint(new Vector3(p[0], p[1], p[2]))
    if (box.isEmpty()) return new Box3(new Vector3(-2, 0, -2), new Vector3(2, 1, 2))
    const margin = Math.max(
      0,
      ...(readout?.parts ?? [])
        .map((p, i) => ({ ...p, ahead: answer!.doc.parts[i]?.forward?.at(-1) ?? 'z' }))
        .filter((_, i) => !readout!.fixtures.some((f) => f.part === i))
        // Across, not along: a body's or a link's own forward lies along its path.
        .map((p) => Math.max(...p.max.map((m, i) => ('xyz'[i] === p.ahead ? 0 : (m - p.min[i]!) / 2)))),
    )
    return box.expandByScalar(Math.min(margin, box.getSize(new Vector3()).length() / 4))
  }, [answer, readout])
}

const keepLabels = (e: HTMLDivElement | null) => {
  if (e) labelLayer.current = e
}

/** The view: the scene in 3-D, its ready views, scale bar and compass; what lies over it is put in. */
export function View({ children }: { children?: React.ReactNode }) {
  const { roles, palette } = useTheme()
  const bounds = useBounds()
  const size = Math.max(bounds.getSize(new Vector3()).length(), 0.5)
  const rigs = useBench((b) => b.answer?.readout.rigs.length ?? 0)
  const ready = useBench((b) => !!b.answer)
  const id = useBench((b) => b.id)
  const view = useView((v) => v.view)
  const look = useView((v) => v.look)
  const alongside = useView((v) => v.alongside)
  const flat = useView((v) => v.flat)
  const trail = useView((v) => v.trail)
  const ghosts = useView((v) => v.ghosts)
  const toggleAlongside = useView((v) => v.toggleAlongside)
  const quality = useQuality()
  const smooth = usePrefs((p) => p.quality !== 'rough')
  const overlay = useRef<HTMLDivElement>(null)
  const centre = useMemo<[number, number]>(() => {
    const c = bounds.getCenter(new Vector3())
    return [c.x, c.z]
  }, [bounds])

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
        <PerspectiveCamera makeDefault={!flat} fov={fov} near={0.01} far={5000} position={[6, 4, 6]} />
        <OrthographicCamera makeDefault={flat} />
        <Lights roles={roles} bounds={bounds} dark={palette.mode === 'dark'} />
        <Ground roles={roles} centre={centre} reach={Math.max(size * 0.62, 1)} dark={palette.mode === 'dark'} />
        {Array.from({ length: rigs }, (_, i) => (
          <Drawn key={i} rig={i} roles={roles} size={size} />
        ))}
        <Fixtures roles={roles} />
        <Wheels roles={roles} />
        <Comb roles={roles} size={size} />
        <PathMarks roles={roles} size={size} />
        <PathPoints roles={roles} />
        <Carriers roles={roles} size={size} />
        <Standing roles={roles} size={size} />
        <Tugs roles={roles} />
        <CheckMark roles={roles} />
        <Trail roles={roles} />
        <Pins roles={roles} />
        <Ghosts roles={roles} />
        <DrawTool roles={roles} />
        <EdgeTool roles={roles} />
        <QualityMeter />
        <CameraRig bounds={bounds} ready={ready} size={size} />
        <Instruments overlay={overlay} size={size} />
      </Canvas>

      <div
        ref={keepLabels}
        style={{ position: 'absolute', inset: 0, zIndex: 0, overflow: 'hidden', pointerEvents: 'none' }}
      />
      <Box
        role="toolbar"
        aria-label="Ready views"
        sx={{ position: 'absolute', left: 16, top: 12, display: 'flex', gap: 0.5 }}
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
        <Box sx={{ width: '1px', my: 0.5, mx: 0.5, background: roles.rule }} />
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
      </Box>

      {children}

      <div ref={overlay} style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
        <ScaleBar roles={roles} />
        <Compass roles={roles} />
      </div>
      <EmptyScene roles={roles} />
    </Box>
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
      }}
    >
      <span className="words">{label}</span>
    </Button>
  )
}

function Lights({ roles, bounds, dark }: { roles: Roles; bounds: Box3; dark: boolean }) {
  const light = useRef<DirectionalLight>(null)
  const c = bounds.getCenter(new Vector3())
  const r = Math.max(bounds.getSize(new Vector3()).length() * 0.6, 1)
  useEffect(() => {
    const l = light.current
    if (!l) return
    l.target.position.copy(c)
    l.target.updateMatrixWorld()
    const cam = l.shadow.camera
    cam.left = cam.bottom = -r
    cam.right = cam.top = r
    cam.near = 0.1
    cam.far = r * 6
    cam.updateProjectionMatrix()
  })
  return (
    <>
      <hemisphereLight args={[dark ? '#cfe0e6' : '#ffffff', dark ? '#26343b' : roles.sunken, dark ? 1.1 : 1.25]} />
      <directionalLight
        ref={light}
        castShadow
        position={[c.x + r * 1.1, c.y + r * 2.4, c.z + r * 0.7]}
        intensity={dark ? 2.2 : 2.6}
        shadow-mapSize={[1024, 1024]}
        shadow-bias={-0.0006}
        shadow-normalBias={0.012}
      />
      <directionalLight position={[c.x - r * 2, c.y + r * 0.6, c.z - r * 1.5]} intensity={dark ? 0.35 : 0.4} />
    </>
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
    const pixel = metresPerPixel(camera, target, px.height)
    const wish = pixel * 150
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
      sx={{ position: 'absolute', right: 14, bottom: 14, '@container view (max-width: 420px)': { display: 'none' } }}
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

/** A rig's pieces: rigid ones, ones that bend, or rigid ones with surfaces that their kind makes. */
function Drawn({ rig, roles, size }: { rig: number; roles: Roles; size: number }) {
  const bends = useBench((b) => !!b.answer?.readout.rigs[rig]?.body)
  const moulds = useBench((b) => (b.answer?.readout.moulds[rig]?.length ?? 0) > 0)
  if (moulds) {
    return (
      <>
        <Pieces rig={rig} roles={roles} size={size} />
        <Bodies rig={rig} roles={roles} />
      </>
    )
  }
  return bends ? <Bodies rig={rig} roles={roles} /> : <Pieces rig={rig} roles={roles} size={size} />
}
