import SvgIcon from '@mui/material/SvgIcon'

// Small pictures of what can be added, drawn in one weight on 24 by 16 points.
const drawn: Record<string, string> = {
  draw: 'M3 13C7 3 11 15 15 7m0 0 4-4 2 2-4 4-3 1z',
  slot: 'M7 4h10a4 4 0 0 1 0 8H7a4 4 0 0 1 0-8z',
  circle: 'M12 2.5a5.5 5.5 0 1 1-.01 0z',
  ellipse: 'M12 4c5 0 9 1.8 9 4s-4 4-9 4-9-1.8-9-4 4-4 9-4z',
  rectangle: 'M6 3.5h12a2 2 0 0 1 2 2v5a2 2 0 0 1-2 2H6a2 2 0 0 1-2-2v-5a2 2 0 0 1 2-2z',
  arch: 'M5 13V7a4 4 0 0 1 4-4h6a4 4 0 0 1 4 4v6',
  helix: 'M3 8c0-6 5-6 5 0s5 6 5 0-5-6-5 0m5 0c0-6 5-6 5 0s5 6 5 0',
  wrap: 'M6 4.5h12M6 11.5h12M6 4.5a3.5 3.5 0 1 0 .01 7a3.5 3.5 0 1 0 0-7m12 0a3.5 3.5 0 1 0 .01 7a3.5 3.5 0 1 0 0-7',
  line: 'M3 12 21 4',
  hang: 'M3 3c3 13 15 13 18 0',
  polyline: 'M3 12 8 4l6 7 7-8',
  bspline: 'M3 12C7 3 10 3 13 8s5 5 8-3',
  spline: 'M3 11c4-10 8 8 12-1 1-3 3-5 6-5',
  file: 'M6 2h8l4 4v8H6zM14 2v4h4',
  track: 'M3 12c5-9 9 3 18-6M3 9.5v5M8 5.8v5',
  shoe: 'M3 6h18v3H3zM6 9v3h3V9M15 9v3h3V9',
  box: 'M6 5h9v8H6zM6 5l3-3h9l-3 3m3-3v8l-3 3',
  link: 'M6 5a3 3 0 1 0 0 6h12a3 3 0 1 0 0-6zM6 7.5v1M18 7.5v1',
  tube: 'M4 5h15v6H4M19 5c1.5 0 2 1.5 2 3s-.5 3-2 3-2-1.5-2-3 .5-3 2-3M4 5c-1.5 0-2 6 0 6',
  eel: 'M3 10c3-6 6 4 10-1 2-2.5 5-4 8-2-2 4-5 2-8 4-4 3-7-4-10-1z',
  plank: 'M3 9l14-4 4 2-14 4zM3 9v2l4 2v-2m14-4v2L7 13',
  dart: 'M3 8c5-4 11-4 18 0-7 4-13 4-18 0zM3 5v6',
  coil: 'M3 12c0-11 4-11 4 0m0 0c0-11 4-11 4 0m0 0c0-11 4-11 4 0m0 0c0-11 4-11 4 0',
  strip: 'M3 6c5-3 8 3 18 0v5c-10 3-13-3-18 0z',
  strands: 'M3 5c4 0 4 6 9 6s5-6 9-6M3 11c4 0 4-6 9-6s5 6 9 6',
  float: 'M8 4h8a4 4 0 0 1 0 8H8a4 4 0 0 1 0-8zM2 8h2m16 0h2',
  post: 'M9 4v9c0 1.5 6 1.5 6 0V4M9 4c0 1.5 6 1.5 6 0s-6-1.5-6 0z',
  mesh: 'M12 2 4 6v5l8 4 8-4V6zM4 6l8 4 8-4m-8 4v5',
  material: 'M12 2.5a5.5 5.5 0 1 1-.01 0zM12 13.5c-4-3-4-7 3-10',
  camera: 'M4 5h11v8H4zM15 8l6-3v8l-6-3M7 5a1.8 1.8 0 1 1 .1 0m5 0a1.8 1.8 0 1 1 .1 0',
  sheet: 'M3 3h18v8c-3 3-6-1-9 1s-6 2-9-1z',
  figure: 'M10 5.5v5m0-3-4 2m4-2 4.5 1M10 10.5l-3 4m3-4 4 2-.5 2M10 5.5a2 2 0 1 0 0-4 2 2 0 0 0 0 4',
  weave: 'M2 12c3 0 3-8 6-8s3 8 6 8 2-4 4-4',
  carrier: 'M4 4h16v7H4zM8 11v2m8-2v2M12 2v4m-2-2h4',
  tug: 'M3 12c5 0 6-6 9-6s4 6 9 6M12 6V2m-2 2 2-2 2 2',
}

/** The picture of something that can be added: its word, or what is drawn. */
export function Picture({ of }: { of: string }) {
  return (
    <SvgIcon
      viewBox="0 0 24 16"
      aria-hidden
      sx={{
        width: 24,
        height: 16,
        fill: 'none',
        stroke: 'currentColor',
        strokeWidth: 1.2,
        strokeLinecap: 'round',
        strokeLinejoin: 'round',
      }}
    >
      <path d={of.includes(' ') ? of : (drawn[of] ?? drawn.spline)} />
    </SvgIcon>
  )
}
