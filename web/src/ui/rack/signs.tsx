import {
  BodyIcon,
  BoxIcon,
  ClothIcon,
  DrumIcon,
  FigureIcon,
  FloatIcon,
  MeshIcon,
  PostIcon,
  RiderIcon,
  RollIcon,
  ShoeIcon,
  TrainIcon,
} from '../../look/icons'
import type { PartShape } from '../../core/page.generated'

/** The sign of each kind of rig. */
export const rigIcons = {
  train: <TrainIcon />,
  rider: <RiderIcon />,
  body: <BodyIcon />,
  payout: <RollIcon />,
  drape: <ClothIcon />,
  drum: <DrumIcon />,
  cycle: <FigureIcon />,
}

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
