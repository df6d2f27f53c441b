import SvgIcon, { type SvgIconProps } from '@mui/material/SvgIcon'

// Bead's own small signs, drawn in one weight on a 16-point square.
const sign = (paths: React.ReactNode) =>
  function Sign(props: SvgIconProps) {
    return (
      <SvgIcon
        viewBox="0 0 16 16"
        {...props}
        sx={{
          fontSize: 16,
          fill: 'none',
          stroke: 'currentColor',
          strokeWidth: 1.3,
          strokeLinecap: 'round',
          strokeLinejoin: 'round',
          ...props.sx,
        }}
      >
        {paths}
      </SvgIcon>
    )
  }

export const CornerIcon = sign(
  <>
    <rect x="2.5" y="5.2" width="11" height="5.6" rx="2.8" transform="rotate(-28 8 8)" />
    <path d="M4.6 11.4 11.6 7.6" />
  </>,
)
export const SideIcon = sign(<rect x="1.8" y="5" width="12.4" height="6" rx="3" />)
export const SlabsIcon = sign(
  <>
    <path d="M2 12.8h12M9 12.4v-8M12.4 12.4v-8" />
    <path d="M5.4 12.4 8.4 5.6M2.2 12.2l5.4-4.6" />
  </>,
)

export const RoomIcon = sign(
  <>
    <rect x="2" y="3" width="12" height="10" rx="1.2" />
    <path d="M6 3v10M6 10h8" />
  </>,
)

export const TrailIcon = sign(
  <>
    <path d="M2.6 12.4h.01M4.4 9.2h.01M6.8 6.6h.01M9.8 5h.01" strokeWidth="2" />
    <circle cx="12.6" cy="4.4" r="1.7" />
  </>,
)

export const GhostsIcon = sign(
  <>
    <circle cx="11" cy="8" r="3" />
    <path d="M6.6 5.4a3 3 0 0 0 0 5.2M3.4 5.9a3 3 0 0 0 0 4.2" opacity="0.7" />
  </>,
)

export const FlatIcon = sign(
  <>
    <rect x="2.5" y="5.5" width="8" height="8" />
    <path d="M2.5 5.5l3-3h8v8l-3 3M10.5 5.5l3-3" />
  </>,
)
export const AheadIcon = sign(
  <>
    <rect x="2.5" y="3.5" width="3.4" height="9" rx="1.2" />
    <rect x="10.1" y="3.5" width="3.4" height="9" rx="1.2" />
    <path d="M5.9 8h4.2" />
  </>,
)
export const AboveIcon = sign(
  <>
    <path d="M2 4.2h12M2 11.8h12" />
    <rect x="4" y="6.4" width="8" height="3.2" rx="0.8" />
  </>,
)
export const AlongsideIcon = sign(
  <>
    <rect x="5.2" y="2.6" width="8.8" height="4.4" rx="2.2" />
    <path d="M2 11.6h10M9.8 9.4l2.2 2.2-2.2 2.2" />
  </>,
)
export const LoopIcon = sign(<rect x="1.8" y="4.6" width="12.4" height="6.8" rx="3.4" />)
export const ChainIcon = sign(
  <>
    <rect x="1.6" y="5.6" width="6.2" height="4.8" rx="2.4" />
    <rect x="8.2" y="5.6" width="6.2" height="4.8" rx="2.4" />
    <path d="M6 8h4" />
  </>,
)
export const CurveIcon = sign(
  <>
    <path d="M2.4 11.4C5.6 11.4 5 4.8 8 4.8s2.6 5 5.6 4.4" />
    <circle cx="2.4" cy="11.4" r="1.1" />
    <circle cx="13.6" cy="9.2" r="1.1" />
  </>,
)
export const ShoeIcon = sign(<path d="M2 6h12v3h-2.6l-1.2 3H8.4L7.6 9H2z" />)
export const BoxIcon = sign(
  <>
    <path d="M2.5 5.5 8 3l5.5 2.5v5L8 13l-5.5-2.5z" />
    <path d="M2.5 5.5 8 8l5.5-2.5M8 8v5" />
  </>,
)
export const FloatIcon = sign(
  <>
    <rect x="3.6" y="5" width="8.8" height="6" rx="3" />
    <path d="M1.6 8h2M12.4 8h2" />
  </>,
)
export const PostIcon = sign(
  <>
    <path d="M5.5 3.6v8.8c0 .7 1.1 1.2 2.5 1.2s2.5-.5 2.5-1.2V3.6" />
    <ellipse cx="8" cy="3.6" rx="2.5" ry="1.2" />
  </>,
)
export const MeshIcon = sign(
  <>
    <path d="M8 2.2 14 6l-2.3 7H4.3L2 6z" />
    <path d="M2 6h12M8 2.2 5.4 6l2.6 7 2.6-7z" />
  </>,
)
export const TrainIcon = sign(
  <>
    <path d="M1.5 8h13" />
    <circle cx="4" cy="8" r="1.5" fill="currentColor" />
    <circle cx="8" cy="8" r="1.5" fill="currentColor" />
    <circle cx="12" cy="8" r="1.5" fill="currentColor" />
  </>,
)

/** The wordmark's sign: beads on a thread. */
export function Mark() {
  return (
    <svg width="28" height="20" viewBox="0 0 28 20" aria-hidden>
      <path d="M2 15C7 15 6 4 12 4s5 11 10 9" fill="none" stroke="var(--bead-kelp)" strokeWidth="1.5" />
      <circle cx="3" cy="15" r="2.2" fill="var(--bead-ink)" />
      <circle cx="12" cy="4.2" r="2.2" fill="var(--bead-kelp)" />
      <circle cx="17.4" cy="11" r="2.2" fill="var(--bead-orange)" />
      <circle cx="24" cy="11.5" r="2.2" fill="var(--bead-ink)" />
    </svg>
  )
}

export const CarrierIcon = sign(
  <>
    <circle cx="8" cy="8.6" r="5" />
    <path d="M8 8.6V1.8M6 3.6 8 1.6l2 2" />
  </>,
)
export const RiderIcon = sign(
  <>
    <path d="M1.6 12.4c4-3.4 8.8-3.4 12.8 0" />
    <circle cx="8" cy="6.6" r="3" />
  </>,
)
export const RollIcon = sign(
  <>
    <path d="M1.6 13h12.8" />
    <path d="M6 13a4.6 4.6 0 1 1 4.6-4.6A3 3 0 1 1 7.4 5.6a1.6 1.6 0 1 1-.2 2.6" transform="translate(2.4 0)" />
  </>,
)
export const ClothIcon = sign(
  <>
    <path d="M1.6 3.2h12.8" />
    <path d="M3 3.4v8.4c1.6 1.4 3-1 5-.2s3.2 1.6 5-.4V3.4M6.4 3.6v6M9.8 3.6v6" />
  </>,
)
export const FigureIcon = sign(
  <>
    <circle cx="8" cy="3.4" r="1.6" />
    <path d="M8 5v4.4M8 6.6l-3.4 1.6M8 6.6l3.6 1M8 9.4l-2.6 4.2M8 9.4l3.2 1.8-.6 2.8" />
  </>,
)
export const DrumIcon = sign(
  <>
    <path d="M4 2.6v8M10 2.6v8M4 4.4h6M4 6.6h6M4 8.8h6M10 4.4c3 .4 4 3 4.2 9" />
  </>,
)
export const BodyIcon = sign(
  <>
    <path d="M1.6 11.6c3.4 0 3.6-6.4 7-6.4 2 0 2.2 2.6 4 2.6" strokeWidth="3" strokeLinecap="round" />
    <circle cx="13.6" cy="7.2" r="1.6" />
  </>,
)
export const CableIcon = sign(
  <>
    <path d="M1.6 3.2c1.6 9 11.2 9 12.8 0" />
    <path d="M4.4 8.6l1.6-1.4M8 10.6v-2.2M11.6 8.6L10 7.2" />
  </>,
)
export const WalkerIcon = sign(
  <>
    <path d="M3.2 12.4V8.8a4.8 4.8 0 0 1 9.6 0v3.6" />
    <path d="M1.4 12.6l3.6-1M1.4 10.6L5 9.6M2.2 7.4l3.2.6M4.4 4.8l2 2M8 3.4v2.8M11.6 4.8l-2 2M13.8 7.4l-3.2.6M14.6 10.6L11 9.6M14.6 12.6l-3.6-1" />
  </>,
)
export const TugIcon = sign(
  <>
    <path d="M1.8 12.8c3 0 4-5 6.2-5s3.2 5 6.2 5" />
    <circle cx="8" cy="3.8" r="2" />
    <path d="M8 5.8v2" />
  </>,
)
export const CameraIcon = sign(
  <>
    <path d="M2 5h8v6.4H2zM10 7l4-2v6.4l-4-2" />
    <circle cx="4.6" cy="3.4" r="1.4" />
    <circle cx="8" cy="3.4" r="1.4" />
  </>,
)
