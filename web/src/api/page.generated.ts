/* Made from the Go types by 'make types'. Do not edit. */

export interface PageSchema {
  document: Document;
  state: SceneState;
  card: SceneCard;
  about: About;
  problem: Problem;
  live: LiveRequest;
  readout: Readout;
  checks: Checks;
  refusal: Refusal;
  readPath: ReadPath;
  readMesh: ReadMesh;
  edgeChain: EdgeChain;
  bake: BakeState;
  historyRow: HistoryStep;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Document".
 */
export interface Document {
  /**
   * Version of the document's form.
   */
  bead: 1;
  name: string;
  /**
   * Unit in which small lengths are shown; the document itself is in metres.
   */
  units?: "mm" | "cm" | "m" | "in";
  /**
   * Frames a second.
   */
  fps: number;
  range: Range;
  paths: Path[];
  parts: Part[];
  fixtures?: Fixture[];
  rigs: Rig[];
  assets?: Asset[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Range".
 */
export interface Range {
  first: number;
  last: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Path".
 */
export interface Path {
  id: string;
  name: string;
  shape: PathShape;
  /**
   * Shaping steps in the order they are taken.
   */
  steps?: Step[];
  /**
   * Metres by which the drawn and baked polyline may stray; 0 or left out: a 50000th of the length.
   */
  chordError?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PathShape".
 */
export interface PathShape {
  line?: LineShape;
  circle?: CircleShape;
  ellipse?: EllipseShape;
  slot?: SlotShape;
  rectangle?: RectangleShape;
  arch?: ArchShape;
  helix?: HelixShape;
  spline?: SplineShape;
  bspline?: BSplineShape;
  polyline?: PolylineShape;
  over?: OverShape;
  track?: TrackShape;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "LineShape".
 */
export interface LineShape {
  /**
   * @minItems 3
   * @maxItems 3
   */
  from: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  to: [number, number, number];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "CircleShape".
 */
export interface CircleShape {
  /**
   * @minItems 3
   * @maxItems 3
   */
  centre: [number, number, number];
  radius: number;
  plane?: "side" | "ahead" | "above";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "EllipseShape".
 */
export interface EllipseShape {
  /**
   * @minItems 3
   * @maxItems 3
   */
  centre: [number, number, number];
  along: number;
  across: number;
  plane?: "side" | "ahead" | "above";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "SlotShape".
 */
export interface SlotShape {
  /**
   * @minItems 3
   * @maxItems 3
   */
  centre: [number, number, number];
  length: number;
  radius: number;
  plane?: "side" | "ahead" | "above";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "RectangleShape".
 */
export interface RectangleShape {
  /**
   * @minItems 3
   * @maxItems 3
   */
  centre: [number, number, number];
  length: number;
  height: number;
  /**
   * Radius of the corners.
   */
  radius?: number;
  plane?: "side" | "ahead" | "above";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ArchShape".
 */
export interface ArchShape {
  /**
   * The middle between its two feet.
   *
   * @minItems 3
   * @maxItems 3
   */
  base: [number, number, number];
  width: number;
  height: number;
  /**
   * One circular arc from foot to foot instead of legs and corners.
   */
  arc?: boolean;
  /**
   * Radius of the corners; 0 or left out: half the width or as much as the height allows.
   */
  radius?: number;
  /**
   * The side that stays open.
   */
  open?: "below" | "above" | "ahead" | "behind";
  plane?: "side" | "ahead" | "above";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "HelixShape".
 */
export interface HelixShape {
  /**
   * Where the axis begins.
   *
   * @minItems 3
   * @maxItems 3
   */
  base: [number, number, number];
  radius: number;
  /**
   * Radius at the end; 0 or left out: the same as at the start.
   */
  endRadius?: number;
  /**
   * Metres along the axis a turn.
   */
  rise: number;
  turns: number;
  hand?: "right" | "left";
  axis?: "up" | "forward" | "side";
  /**
   * Degrees about the axis at which it begins.
   */
  begin?: number;
  /**
   * Metres of straight run before it and tangent to it.
   */
  leadIn?: number;
  /**
   * Metres of straight run behind it and tangent to it.
   */
  leadOut?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "SplineShape".
 */
export interface SplineShape {
  closed?: boolean;
  points: Point[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Point".
 */
export interface Point {
  /**
   * @minItems 3
   * @maxItems 3
   */
  at: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  in?: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  out?: [number, number, number];
  handles?: "smooth" | "aligned" | "mirrored" | "free";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "BSplineShape".
 */
export interface BSplineShape {
  closed?: boolean;
  points: [number, number, number][];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PolylineShape".
 */
export interface PolylineShape {
  closed?: boolean;
  points: [number, number, number][];
  /**
   * Radius of every corner in metres.
   */
  fillet?: number;
  /**
   * Radius of each corner in the order of the points; instead of fillet.
   */
  fillets?: number[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "OverShape".
 */
export interface OverShape {
  /**
   * Id of the fixture it lies on.
   */
  fixture: string;
  /**
   * Metres kept from its surface.
   */
  clearance?: number;
  closed?: boolean;
  /**
   * Places on or near the surface in the part's own axes.
   */
  points: [number, number, number][];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "TrackShape".
 */
export interface TrackShape {
  /**
   * Id of the rig.
   */
  rig: string;
  /**
   * Which piece from 1 on; 1 where left out.
   */
  piece?: number;
  closed?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Step".
 */
export interface Step {
  /**
   * Passed over.
   */
  off?: boolean;
  reverse?: ReverseStep;
  startAt?: StartAtStep;
  close?: CloseStep;
  open?: OpenStep;
  extend?: ExtendStep;
  trim?: TrimStep;
  join?: JoinStep;
  subdivide?: SubdivideStep;
  resample?: ResampleStep;
  simplify?: SimplifyStep;
  round?: RoundStep;
  smooth?: SmoothStep;
  offset?: OffsetStep;
  mirror?: MirrorStep;
  jitter?: JitterStep;
  drop?: DropStep;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ReverseStep".
 */
export interface ReverseStep {}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "StartAtStep".
 */
export interface StartAtStep {
  distance: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "CloseStep".
 */
export interface CloseStep {
  /**
   * By a curve with both end tangents instead of a straight line.
   */
  smooth?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "OpenStep".
 */
export interface OpenStep {
  /**
   * Metres left open before the start; 0: the seam is only parted.
   */
  gap?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ExtendStep".
 */
export interface ExtendStep {
  before?: number;
  after?: number;
  /**
   * Going on with the curvature of the end instead of straight.
   */
  curved?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "TrimStep".
 */
export interface TrimStep {
  from: number;
  /**
   * 0 or left out: the end.
   */
  to: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "JoinStep".
 */
export interface JoinStep {
  /**
   * Ids of the paths in order.
   */
  paths: string[];
  /**
   * Gaps up to this many metres are closed by moving the later path.
   */
  snap?: number;
  /**
   * Wider gaps are bridged by a curve instead of a straight line.
   */
  smooth?: boolean;
  /**
   * Paths that run the wrong way are not turned.
   */
  keepDirection?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "SubdivideStep".
 */
export interface SubdivideStep {
  parts: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ResampleStep".
 */
export interface ResampleStep {
  count: number;
  straight?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "SimplifyStep".
 */
export interface SimplifyStep {
  /**
   * Metres by which the new path may stray from the old.
   */
  tolerance: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "RoundStep".
 */
export interface RoundStep {
  radius: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "SmoothStep".
 */
export interface SmoothStep {
  /**
   * Metres.
   */
  reach: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "OffsetStep".
 */
export interface OffsetStep {
  /**
   * Metres; out of a flat loop or to the left of other paths; negative: into it or to the right.
   */
  distance: number;
  /**
   * The plane it is moved in; left out: a flat path's own and the ground for others.
   */
  plane?: "side" | "ahead" | "above";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "MirrorStep".
 */
export interface MirrorStep {
  axis: "x" | "y" | "z";
  /**
   * Where the mirror stands on that axis in metres.
   */
  at?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "JitterStep".
 */
export interface JitterStep {
  seed: number;
  amount: number;
  /**
   * About the length of one waver in metres.
   */
  grain: number;
  direction?: "side" | "up" | "all";
  /**
   * Never below the ground.
   */
  floor?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "DropStep".
 */
export interface DropStep {
  clearance?: number;
  /**
   * Every point is laid on the ground; left out: the path is lowered as it is until it touches.
   */
  flat?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Part".
 */
export interface Part {
  id: string;
  name: string;
  shape: PartShape;
  forward?: "+x" | "-x" | "+y" | "-y" | "+z" | "-z";
  up?: "+x" | "-x" | "+y" | "-y" | "+z" | "-z";
  /**
   * The point of the part that sits on the path in the part's own axes.
   *
   * @minItems 3
   * @maxItems 3
   */
  pivot?: [number, number, number];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PartShape".
 */
export interface PartShape {
  box?: BoxShape;
  shoe?: ShoeSize;
  float?: FloatShape;
  post?: PostShape;
  file?: FileShape;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "BoxShape".
 */
export interface BoxShape {
  side: number;
  height: number;
  length: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ShoeSize".
 */
export interface ShoeSize {
  length: number;
  width: number;
  height: number;
  grouser: number;
  horn: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "FloatShape".
 */
export interface FloatShape {
  length: number;
  radius: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PostShape".
 */
export interface PostShape {
  radius: number;
  /**
   * Radius at the top; 0 or left out: the same as below.
   */
  topRadius?: number;
  height: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "FileShape".
 */
export interface FileShape {
  /**
   * Id of the asset: the SHA-256 of the file in hex.
   */
  asset: string;
  /**
   * Metres a unit of the file; 1 where left out.
   */
  scale?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Fixture".
 */
export interface Fixture {
  id: string;
  name: string;
  /**
   * Id of the part.
   */
  part: string;
  /**
   * Where the part's pivot stands in metres.
   *
   * @minItems 3
   * @maxItems 3
   */
  at: [number, number, number];
  /**
   * Degrees that the part's forward is turned about up.
   */
  heading?: number;
  /**
   * Guide only: shown in the view and left out of deliveries.
   */
  guide?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Rig".
 */
export interface Rig {
  id: string;
  name: string;
  kind: "train";
  /**
   * Id of the path.
   */
  path: string;
  /**
   * Id of the part.
   */
  part: string;
  seat?: "pivot";
  /**
   * Scale of the pieces; spacing is not touched. 1 where left out.
   */
  scale?: number;
  spacing: Spacing;
  facing: Facing;
  /**
   * How far the rig has moved along its path in metres.
   */
  travel: number | Keyed2 | Running2;
  /**
   * What a piece does that leaves an open path.
   */
  pastEnd?: "straight on" | "come round";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Spacing".
 */
export interface Spacing {
  mode: "set count" | "set pitch" | "close up";
  count?: number;
  /**
   * Metres from one piece to the next; 0 or left out: the part's own length.
   */
  pitch?: number;
  /**
   * Metres added to the pitch.
   */
  gap?: number;
  rest?: "pitch" | "slack";
  /**
   * Metres by which all pieces stand further along.
   */
  offset?: number | Keyed | Running;
}
export interface Keyed {
  keys: {
    frame: number;
    value: number;
    shape?: "straight" | "eased" | "stepped" | "free";
    /**
     * Handle before the key: offsets of frame and value.
     *
     * @minItems 2
     * @maxItems 2
     */
    in?: [number, number];
    /**
     * Handle after the key: offsets of frame and value.
     *
     * @minItems 2
     * @maxItems 2
     */
    out?: [number, number];
  }[];
  before?: "hold" | "carry on" | "repeat" | "build" | "mirror";
  after?: "hold" | "carry on" | "repeat" | "build" | "mirror";
  /**
   * First and last frame between which the value moves; left out: always.
   *
   * @minItems 2
   * @maxItems 2
   */
  within?: [number, number];
}
export interface Running {
  speed: number;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Facing".
 */
export interface Facing {
  mode: "steady" | "loopside" | "least-twist" | "guide" | "turn";
  /**
   * Id of the path that facing guide looks at.
   */
  guide?: string;
  /**
   * @minItems 3
   * @maxItems 3
   */
  up?: [number, number, number];
  inward?: boolean;
  turns?: number;
  symmetry?: number;
  /**
   * Degrees about the path's direction.
   */
  roll?: number | Keyed1 | Running1;
  /**
   * Roll by distance; added to roll.
   */
  rollAt?: RollBead[];
}
export interface Keyed1 {
  keys: {
    frame: number;
    value: number;
    shape?: "straight" | "eased" | "stepped" | "free";
    /**
     * Handle before the key: offsets of frame and value.
     *
     * @minItems 2
     * @maxItems 2
     */
    in?: [number, number];
    /**
     * Handle after the key: offsets of frame and value.
     *
     * @minItems 2
     * @maxItems 2
     */
    out?: [number, number];
  }[];
  before?: "hold" | "carry on" | "repeat" | "build" | "mirror";
  after?: "hold" | "carry on" | "repeat" | "build" | "mirror";
  /**
   * First and last frame between which the value moves; left out: always.
   *
   * @minItems 2
   * @maxItems 2
   */
  within?: [number, number];
}
export interface Running1 {
  speed: number;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "RollBead".
 */
export interface RollBead {
  /**
   * Metres from the path's start.
   */
  at: number;
  /**
   * Degrees.
   */
  roll: number;
  ease?: "straight" | "eased";
}
export interface Keyed2 {
  keys: {
    frame: number;
    value: number;
    shape?: "straight" | "eased" | "stepped" | "free";
    /**
     * Handle before the key: offsets of frame and value.
     *
     * @minItems 2
     * @maxItems 2
     */
    in?: [number, number];
    /**
     * Handle after the key: offsets of frame and value.
     *
     * @minItems 2
     * @maxItems 2
     */
    out?: [number, number];
  }[];
  before?: "hold" | "carry on" | "repeat" | "build" | "mirror";
  after?: "hold" | "carry on" | "repeat" | "build" | "mirror";
  /**
   * First and last frame between which the value moves; left out: always.
   *
   * @minItems 2
   * @maxItems 2
   */
  within?: [number, number];
}
export interface Running2 {
  speed: number;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Asset".
 */
export interface Asset {
  id: string;
  /**
   * File name; its ending says the format: obj or glb or gltf.
   */
  name: string;
  /**
   * The bytes in base64.
   */
  data: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "SceneState".
 */
export interface SceneState {
  id: string;
  revision: number;
  touched: string;
  undo: string;
  redo: string;
  doc: Document;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "SceneCard".
 */
export interface SceneCard {
  id: string;
  name: string;
  revision: number;
  touched: string;
  rigs: string[];
  frames: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "About".
 */
export interface About {
  version: string;
  starters: Starter[];
  bakes: string[];
  imports: string[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Starter".
 */
export interface Starter {
  id: string;
  name: string;
  text: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Problem".
 */
export interface Problem {
  type: string;
  title: string;
  status: number;
  code: string;
  detail: string;
  faults?: Fault[];
  current?: SceneState;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Fault".
 */
export interface Fault {
  address: string;
  message: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "LiveRequest".
 */
export interface LiveRequest {
  seq: number;
  frame: number;
  doc?: unknown;
  fill: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Readout".
 */
export interface Readout {
  paths: PathReadout[];
  parts: PartReadout[];
  rigs: RigReadout[];
  fixtures: FixtureReadout[];
  meshes: string[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PathReadout".
 */
export interface PathReadout {
  id: string;
  length: number;
  closed: boolean;
  spans: number;
  /**
   * @minItems 3
   * @maxItems 3
   */
  min: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  max: [number, number, number];
  tightestRadius: number;
  tightestDistance: number;
  offPlane: number;
  /**
   * @minItems 3
   * @maxItems 3
   */
  normal: [number, number, number];
  curvature: number[];
  points?: PointReadout[];
  before?: number[];
  steps?: StepReadout[];
  notes?: string[];
  chordError: number;
  drawnPoints: number;
  corners: number;
  lowest: number;
  lowestAt: number;
  crossings?: CrossingReadout[];
  close?: number[];
  gap: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PointReadout".
 */
export interface PointReadout {
  /**
   * @minItems 3
   * @maxItems 3
   */
  at: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  in: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  out: [number, number, number];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "StepReadout".
 */
export interface StepReadout {
  kind: string;
  off?: boolean;
  length: number;
  change: number;
  spans: number;
  closed: boolean;
  note?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "CrossingReadout".
 */
export interface CrossingReadout {
  a: number;
  b: number;
  /**
   * @minItems 3
   * @maxItems 3
   */
  at: [number, number, number];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PartReadout".
 */
export interface PartReadout {
  id: string;
  length: number;
  /**
   * @minItems 3
   * @maxItems 3
   */
  min: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  max: [number, number, number];
  triangles: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "RigReadout".
 */
export interface RigReadout {
  id: string;
  count: number;
  pitch: number;
  asked: number;
  gap: number;
  partLength: number;
  seam: number;
  comesRound: boolean;
  residualDeg: number;
  offPlane: number;
  straight: boolean;
  along?: StretchReadout[];
  travels: boolean;
  /**
   * @minItems 2
   * @maxItems 2
   */
  travelRange: [number, number];
  comb: number[];
  twist: number[];
  roll: number[];
  curves?: CurveReadout[];
  guideNear?: number;
  guideNearAt?: number;
  guideAhead?: number;
  guideAheadAt?: number;
  notes?: string[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "StretchReadout".
 */
export interface StretchReadout {
  from: number;
  to: number;
  turnDeg: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "CurveReadout".
 */
export interface CurveReadout {
  field: string;
  first: number;
  step: number;
  values: number[];
  speed: number[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "FixtureReadout".
 */
export interface FixtureReadout {
  id: string;
  part: number;
  place: number[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Checks".
 */
export interface Checks {
  results: Result[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Result".
 */
export interface Result {
  id: string;
  rig: string;
  value: number;
  unit: string;
  tolerance: number;
  state: string;
  word: string;
  text: string;
  of?: number;
  where?: Where;
  remedies?: Remedy[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Where".
 */
export interface Where {
  piece: number;
  distance: number;
  frame: number;
  /**
   * @minItems 3
   * @maxItems 3
   */
  position: [number, number, number];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Remedy".
 */
export interface Remedy {
  label: string;
  edits: Edit[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Edit".
 */
export interface Edit {
  path: string;
  value: unknown;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Refusal".
 */
export interface Refusal {
  detail: string;
  faults: Fault[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ReadPath".
 */
export interface ReadPath {
  name: string;
  length: number;
  shape: PathShape;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ReadMesh".
 */
export interface ReadMesh {
  asset: string;
  name: string;
  points: number;
  /**
   * @minItems 3
   * @maxItems 3
   */
  min: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  max: [number, number, number];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "EdgeChain".
 */
export interface EdgeChain {
  points: [number, number, number][];
  closed: boolean;
  length: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "BakeState".
 */
export interface BakeState {
  id: string;
  done: number;
  total: number;
  state: string;
  left: number;
  bytes: number;
  detail?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "HistoryStep".
 */
export interface HistoryStep {
  seq: number;
  label: string;
  made: string;
  current: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "page".
 */
export interface Page {
  document: Document;
  state: SceneState;
  card: SceneCard;
  about: About;
  problem: Problem;
  live: LiveRequest;
  readout: Readout;
  checks: Checks;
  refusal: Refusal;
  readPath: ReadPath;
  readMesh: ReadMesh;
  edgeChain: EdgeChain;
  bake: BakeState;
  historyRow: HistoryStep;
}
