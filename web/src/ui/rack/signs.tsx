import { BoxIcon, FigureIcon, FloatIcon, MeshIcon, PostIcon, ShoeIcon } from '../../look/icons'
import type { PartShape } from '../../core/page.generated'

/** The sign of a part. */
export const partIcon = (s: PartShape) =>
  s.shoe ? (
    <ShoeIcon />
  ) : s.box ? (
    <BoxIcon />
  ) : s.post ? (
    <PostIcon />
  ) : s.file ? (
    <MeshIcon />
  ) : s.figure ? (
    <FigureIcon />
  ) : (
    <FloatIcon />
  )
