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
  rigs: Rig[];
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
  spline?: SplineShape;
  polyline?: PolylineShape;
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
 * via the `definition` "PolylineShape".
 */
export interface PolylineShape {
  closed?: boolean;
  points: [number, number, number][];
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
    shape?: "straight" | "eased" | "stepped";
  }[];
  before?: "hold" | "carry on" | "repeat" | "build";
  after?: "hold" | "carry on" | "repeat" | "build";
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
  mode: "steady" | "loopside" | "least-twist";
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
}
export interface Keyed1 {
  keys: {
    frame: number;
    value: number;
    shape?: "straight" | "eased" | "stepped";
  }[];
  before?: "hold" | "carry on" | "repeat" | "build";
  after?: "hold" | "carry on" | "repeat" | "build";
}
export interface Running1 {
  speed: number;
  start?: number;
}
export interface Keyed2 {
  keys: {
    frame: number;
    value: number;
    shape?: "straight" | "eased" | "stepped";
  }[];
  before?: "hold" | "carry on" | "repeat" | "build";
  after?: "hold" | "carry on" | "repeat" | "build";
}
export interface Running2 {
  speed: number;
  start?: number;
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
  bake: BakeState;
  historyRow: HistoryStep;
}
