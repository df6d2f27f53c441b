/* Made from the Go types by 'make types'. Do not edit. */

export interface PageSchema {
  document: Document;
  state: SceneState;
  kept: Kept;
  card: SceneCard;
  about: About;
  problem: Problem;
  live: LiveRequest;
  readout: Readout;
  checks: Checks;
  refusal: Refusal;
  moved: Moved;
  simulating: Simulating;
  readPath: ReadPath;
  readMesh: ReadMesh;
  readImage: ReadImage;
  readMaterial: ReadMaterial;
  readFigure: ReadFigure;
  edgeChain: EdgeChain;
  bake: BakeState;
  askBake: AskBake;
  historyRow: HistoryStep;
  loops: LoopAnswer;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Document".
 */
export interface Document {
  /**
   * Version of the document's form.
   */
  bead: 2;
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
  /**
   * What happens at the end of the range; left out: once where pieces arrive or leave or fall and a loop else.
   */
  plays?: "loops" | "once";
  /**
   * Id of the carrier that carries all that names no other.
   */
  master?: string;
  carriers?: Carrier[];
  tugs?: Tug[];
  ground?: Ground;
  paths: Path[];
  parts: Part[];
  materials?: Material[];
  fixtures?: Fixture[];
  rigs: Rig[];
  cameras?: Camera[];
  light?: Light;
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
 * via the `definition` "Carrier".
 */
export interface Carrier {
  id: string;
  name: string;
  /**
   * Id of the carrier it rides on; left out: the master or the world.
   */
  parent?: string;
  /**
   * Where it is in metres.
   *
   * @minItems 3
   * @maxItems 3
   */
  at: [
    number | Keyed | Running | Driven | Spun | Turning | Rolling,
    number | Keyed | Running | Driven | Spun | Turning | Rolling,
    number | Keyed | Running | Driven | Spun | Turning | Rolling
  ];
  turn?: Turn;
  ride?: Ride;
  ground?: OnGround;
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
export interface Driven {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Turn".
 */
export interface Turn {
  /**
   * Degrees to the left.
   */
  heading?: number | Keyed1 | Running1 | Driven1 | Spun1 | Turning1 | Rolling1;
  /**
   * Degrees nose up.
   */
  pitch?: number | Keyed2 | Running2 | Driven2 | Spun2 | Turning2 | Rolling2;
  /**
   * Degrees left side up.
   */
  bank?: number | Keyed3 | Running3 | Driven3 | Spun3 | Turning3 | Rolling3;
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
export interface Driven1 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun1 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning1 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling1 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
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
export interface Driven2 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun2 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning2 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling2 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed3 {
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
export interface Running3 {
  speed: number;
  start?: number;
}
export interface Driven3 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun3 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning3 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling3 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * The path it rides along: then at and turn are counted from the place there.
 */
export interface Ride {
  /**
   * Id of the path.
   */
  path: string;
  /**
   * Metres from the path's start.
   */
  distance: number | Keyed4 | Running4 | Driven4 | Spun4 | Turning4 | Rolling4;
  /**
   * level: with the path's heading but upright.
   */
  turning?: "with the path" | "level" | "none";
}
export interface Keyed4 {
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
export interface Running4 {
  speed: number;
  start?: number;
}
export interface Driven4 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun4 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning4 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling4 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * It rides on the ground on the wheels of its belts: then height and pitch and bank are counted from how it stands there.
 */
export interface OnGround {
  /**
   * Frames over which its body gives way; 0 or left out: it follows at once.
   */
  soften?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Tug".
 */
export interface Tug {
  id: string;
  name: string;
  /**
   * Id of a path with points of its own: spline or B-spline or polyline.
   */
  path: string;
  /**
   * The points held counted from 1.
   */
  points: number[];
  /**
   * Of a spline's points: the point with both handles or only one of its handles.
   */
  handle?: "both" | "in" | "out";
  /**
   * Metres that it is pulled by in the path's own space.
   *
   * @minItems 3
   * @maxItems 3
   */
  pull?: [
    number | Keyed5 | Running5 | Driven5 | Spun5 | Turning5 | Rolling5,
    number | Keyed5 | Running5 | Driven5 | Spun5 | Turning5 | Rolling5,
    number | Keyed5 | Running5 | Driven5 | Spun5 | Turning5 | Rolling5
  ];
  /**
   * Metres along the path over which its hold falls off; 0: only the points held.
   */
  reach?: number;
  /**
   * Id of the carrier that it rides on; it moves as that has moved since the first frame.
   */
  carrier?: string;
  wheel?: OnWheel;
}
export interface Keyed5 {
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
export interface Running5 {
  speed: number;
  start?: number;
}
export interface Driven5 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun5 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning5 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling5 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * The wheel that it rides on instead of a carrier; it moves as its hub has moved since the first frame.
 */
export interface OnWheel {
  /**
   * Id of the belt.
   */
  path: string;
  /**
   * Which wheel from 1 on.
   */
  wheel: number;
}
/**
 * The ground; left out: level at height 0.
 */
export interface Ground {
  /**
   * In rising z; level before the first and behind the last.
   */
  points?: GroundPoint[];
  /**
   * A smooth curve goes through the points.
   */
  smooth?: boolean;
  humps?: Hump[];
  rough?: Rough;
  /**
   * Id of the material; left out: it is drawn as a chart.
   */
  material?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "GroundPoint".
 */
export interface GroundPoint {
  /**
   * Metres along z.
   */
  z: number;
  /**
   * Metres.
   */
  height: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Hump".
 */
export interface Hump {
  /**
   * Metres along z where its top is.
   */
  z: number;
  /**
   * Metres from end to end.
   */
  length: number;
  /**
   * Metres; below 0: a hollow.
   */
  height: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Rough".
 */
export interface Rough {
  seed: number;
  /**
   * Metres of its greatest height.
   */
  amount: number;
  /**
   * Metres; about the length of one bump.
   */
  grain: number;
  /**
   * Metres along z where it begins.
   */
  from: number;
  /**
   * Metres along z where it ends.
   */
  to: number;
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
   * Id of the carrier that it rides on.
   */
  carrier?: string;
  rest?: Stand;
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
  slot?: SlotShape;
  circle?: CircleShape;
  ellipse?: EllipseShape;
  rectangle?: RectangleShape;
  arch?: ArchShape;
  helix?: HelixShape;
  wrap?: WrapShape;
  line?: LineShape;
  weave?: WeaveShape;
  hang?: HangShape;
  polyline?: PolylineShape;
  bspline?: BSplineShape;
  spline?: SplineShape;
  over?: OverShape;
  track?: TrackShape;
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
 * via the `definition` "WrapShape".
 */
export interface WrapShape {
  /**
   * In the order in which the belt comes to them.
   */
  wheels: Wheel[];
  plane?: "side" | "ahead" | "above";
  keep?: KeptLength;
  /**
   * Metres from the pitch line out to the face that lies on the ground.
   */
  depth?: number;
  /**
   * The wheel counted from 1 at whose contact distances begin; 0 or left out: where the belt leaves the first wheel.
   */
  anchor?: number;
  /**
   * Metres across the wheels as they are drawn and delivered; 0 or left out: a quarter of their radius.
   */
  width?: number;
  ends?: BeltEnds;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Wheel".
 */
export interface Wheel {
  name: string;
  /**
   * Its centre; what is not in the plane counts from the first wheel only.
   *
   * @minItems 3
   * @maxItems 3
   */
  at: [number, number, number];
  /**
   * Metres at the pitch line; of wheels without teeth.
   */
  radius?: number;
  teeth?: number;
  /**
   * Metres from tooth to tooth along the chain.
   */
  pitch?: number;
  /**
   * The back of the belt lies on it and it turns the other way.
   */
  back?: boolean;
  /**
   * The belt passes it by.
   */
  free?: boolean;
  /**
   * The run behind it hangs where the belt has length to spare.
   */
  slack?: boolean;
  /**
   * Id of a carrier that it rides on; it moves as that has moved since the first frame.
   */
  carrier?: string;
  /**
   * It rides on the ground.
   */
  ground?: boolean;
  spring?: Spring;
  takeUp?: Sliding;
}
/**
 * How a wheel on the ground moves against the rest.
 */
export interface Spring {
  /**
   * The pivot of its arm; left out: a slide.
   *
   * @minItems 3
   * @maxItems 3
   */
  arm?: [number, number, number];
  /**
   * Degrees that a slide leans forward.
   */
  tilt?: number;
  /**
   * Metres that its hub may come above its place.
   */
  up: number;
  /**
   * Metres that its hub may drop below its place.
   */
  down: number;
}
/**
 * It slides to hold the kept length.
 */
export interface Sliding {
  /**
   * Degrees of the slide from forward towards up.
   */
  angle?: number;
  /**
   * Metres that it may go against the slide.
   */
  in: number;
  /**
   * Metres that it may go along the slide.
   */
  out: number;
}
/**
 * The length that is kept; left out: the belt is taut and as long as it comes.
 */
export interface KeptLength {
  links: number;
  /**
   * Metres.
   */
  pitch: number;
  /**
   * The pitch is the straight distance from pin to pin; left out: along the belt.
   */
  pins?: boolean;
}
/**
 * Of an open belt: it comes from a place or from a drum over its wheels and its free end hangs straight down behind the last; left out: it is closed.
 */
export interface BeltEnds {
  /**
   * Where it is made fast or its drum's hub.
   *
   * @minItems 3
   * @maxItems 3
   */
  from: [number, number, number];
  /**
   * Metres of it off the drum when nothing has been paid out; of a belt without a drum all of it.
   */
  length: number;
  /**
   * Id of the rig that is the drum at its start.
   */
  drum?: string;
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
 * via the `definition` "WeaveShape".
 */
export interface WeaveShape {
  /**
   * @minItems 3
   * @maxItems 3
   */
  from: [number, number, number];
  /**
   * Metres from its start straight to its end.
   */
  length: number;
  /**
   * Metres from its farthest to the left to its farthest to the right.
   */
  width: number;
  /**
   * How often it swings out.
   */
  bends: number;
  /**
   * Degrees to the left of forward in which it goes.
   */
  heading?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "HangShape".
 */
export interface HangShape {
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
  /**
   * Metres; more than the ends are apart.
   */
  length: number;
  /**
   * Id of the carrier that holds its start; it moves as that has moved since the first frame.
   */
  fromCarrier?: string;
  /**
   * Id of the carrier that holds its end.
   */
  toCarrier?: string;
  /**
   * Id of the rig that is the drum at its start; from is then its hub.
   */
  drum?: string;
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
 * via the `definition` "BSplineShape".
 */
export interface BSplineShape {
  closed?: boolean;
  points: [number, number, number][];
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
  rig?: string;
  /**
   * Id of the carrier; instead of rig.
   */
  carrier?: string;
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
  wave?: WaveStep;
  lag?: LagStep;
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
  /**
   * How often it comes back over the frame range; 0 or left out: it stands still.
   */
  beats?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "WaveStep".
 */
export interface WaveStep {
  /**
   * Metres that the path swings to either side.
   */
  side?: number | Keyed6 | Running6 | Driven6 | Spun6 | Turning6 | Rolling6;
  /**
   * Metres that it swings up and down; a quarter of a wave behind side.
   */
  up?: number | Keyed7 | Running7 | Driven7 | Spun7 | Turning7 | Rolling7;
  /**
   * Metres along the path.
   */
  wavelength: number;
  /**
   * Waves that have run by: a speed is waves a second; below 0 they run against the path.
   */
  phase?: number | Keyed8 | Running8 | Driven8 | Spun8 | Turning8 | Rolling8;
  /**
   * Share of the swing by distance.
   */
  amount?: AmountBead[];
  /**
   * Id of the rig whose travel the distances of amount are counted from.
   */
  with?: string;
}
export interface Keyed6 {
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
export interface Running6 {
  speed: number;
  start?: number;
}
export interface Driven6 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun6 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning6 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling6 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed7 {
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
export interface Running7 {
  speed: number;
  start?: number;
}
export interface Driven7 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun7 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning7 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling7 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed8 {
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
export interface Running8 {
  speed: number;
  start?: number;
}
export interface Driven8 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun8 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning8 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling8 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "AmountBead".
 */
export interface AmountBead {
  /**
   * Metres.
   */
  at: number;
  share: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "LagStep".
 */
export interface LagStep {
  /**
   * Metres along the path where it begins to give way.
   */
  from?: number;
  /**
   * Metres along the path where it gives way wholly; 0 or left out: the end. Less than from: towards the start.
   */
  to?: number;
  /**
   * Of its own swing in swings a second.
   */
  frequency: number;
  /**
   * Damping ratio: below 1 it swings past; 1: just not.
   */
  damping: number;
  /**
   * Frame from which on it gives way.
   */
  first?: number;
  /**
   * Frame up to which it gives way.
   */
  last?: number;
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
 * Where the path stands in the carrier's space.
 */
export interface Stand {
  /**
   * Metres.
   *
   * @minItems 3
   * @maxItems 3
   */
  at?: [number, number, number];
  /**
   * Degrees to the left.
   */
  heading?: number;
  /**
   * Degrees nose up.
   */
  pitch?: number;
  /**
   * Degrees left side up.
   */
  bank?: number;
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
  /**
   * Guide only: shown in the view and left out of deliveries.
   */
  guide?: boolean;
  /**
   * Id of the material; left out: one that goes with its shape.
   */
  material?: string;
  /**
   * Surfaces of a mesh from a file that are of other materials.
   */
  surfaces?: Surface[];
  /**
   * Into how many stretches along its forward it is cut; 0 or left out: as it is.
   */
  segments?: number;
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
  link?: LinkSize;
  file?: FileShape;
  figure?: FigureShape;
  tube?: TubeSize;
  eel?: EelSize;
  plank?: PlankSize;
  dart?: DartSize;
  coil?: CoilSize;
  strip?: StripSize;
  strands?: StrandsSize;
  sheet?: SheetSize;
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
 * via the `definition` "LinkSize".
 */
export interface LinkSize {
  pitch: number;
  width: number;
  height: number;
  plate: number;
  roller: number;
  outer?: boolean;
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
   * Metres a unit of the file; 0 or left out: 1.
   */
  scale?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "FigureShape".
 */
export interface FigureShape {
  /**
   * Id of the asset: the SHA-256 of the file in hex.
   */
  asset: string;
  /**
   * Metres a unit of the file; 0 or left out: 1.
   */
  scale?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "TubeSize".
 */
export interface TubeSize {
  length: number;
  radius: number;
  bore?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "EelSize".
 */
export interface EelSize {
  length: number;
  girth: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PlankSize".
 */
export interface PlankSize {
  length: number;
  width: number;
  thickness: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "DartSize".
 */
export interface DartSize {
  length: number;
  radius: number;
  fins?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "CoilSize".
 */
export interface CoilSize {
  radius: number;
  pitch: number;
  turns: number;
  wire: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "StripSize".
 */
export interface StripSize {
  length: number;
  width: number;
  thickness: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "StrandsSize".
 */
export interface StrandsSize {
  length: number;
  count: number;
  radius: number;
  lay: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "SheetSize".
 */
export interface SheetSize {
  length: number;
  drop: number;
  /**
   * How long its lower edge is of the upper; 1 where left out or 0; a fortieth: a pennant.
   */
  foot?: number;
  along: number;
  down: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Surface".
 */
export interface Surface {
  /**
   * As the file has it.
   */
  name: string;
  /**
   * Id of the material.
   */
  material: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Material".
 */
export interface Material {
  id: string;
  name: string;
  /**
   * As #RRGGBB in sRGB.
   */
  colour: string;
  /**
   * Colour of the lower side; left out: the same all round.
   */
  under?: string;
  /**
   * 0 is a mirror and 1 is matt.
   */
  roughness: number;
  metalness?: number;
  /**
   * Below 1 what is behind shows through; 0 or left out: 1.
   */
  opacity?: number;
  images?: Images;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Images".
 */
export interface Images {
  /**
   * Id of the asset whose colours the material's colour is multiplied by.
   */
  colour?: string;
  /**
   * Id of the asset that tilts the surface as tangent space normals do.
   */
  normal?: string;
  /**
   * Id of the asset by whose green roughness is multiplied and by whose blue metalness is.
   */
  rough?: string;
  /**
   * Metres that an image is wide on the thing; 0 or left out: as wide as it is long; with both left out as the mesh of a file has it or 1 m.
   */
  width?: number;
  /**
   * Metres that an image is long along the thing; 0 or left out: as wide as its width.
   */
  length?: number;
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
   * Degrees that the part's forward is turned to the left.
   */
  heading?: number;
  /**
   * Degrees nose up.
   */
  pitch?: number;
  /**
   * Degrees left side up.
   */
  bank?: number;
  /**
   * Guide only: shown in the view and left out of deliveries.
   */
  guide?: boolean;
  /**
   * Id of the carrier that it rides on.
   */
  carrier?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Rig".
 */
export interface Rig {
  id: string;
  name: string;
  /**
   * Id of the path.
   */
  path: string;
  /**
   * Id of the part.
   */
  part: string;
  /**
   * Scale of the pieces; spacing is not touched. 0 or left out: 1.
   */
  scale?: number;
  facing: Facing;
  /**
   * How far the rig has moved along its path in metres.
   */
  travel: number | Keyed10 | Running10 | Driven10 | Spun10 | Turning10 | Rolling10;
  /**
   * Metres by which all of it stands further along.
   */
  offset?: number | Keyed11 | Running11 | Driven11 | Spun11 | Turning11 | Rolling11;
  /**
   * Id of the rig that it is to be in step with.
   */
  inStep?: string;
  /**
   * Colours of some of its pieces; later ones lie over earlier ones.
   */
  tints?: Tint[];
  train?: Train;
  rider?: Rider;
  body?: Body;
  payout?: Payout;
  drum?: Drum;
  drape?: Drape;
  cycle?: Cycle;
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
  roll?: number | Keyed9 | Running9 | Driven9 | Spun9 | Turning9 | Rolling9;
  /**
   * Roll by distance; added to roll.
   */
  rollAt?: RollBead[];
  bank?: Bank;
}
export interface Keyed9 {
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
export interface Running9 {
  speed: number;
  start?: number;
}
export interface Driven9 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun9 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning9 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling9 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
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
/**
 * Leans into bends as its speed asks.
 */
export interface Bank {
  /**
   * 1: as much as the speed asks.
   */
  share: number;
  /**
   * Metres of path over which a bend is looked at; 0 or left out: a tenth of the path.
   */
  over?: number;
  /**
   * Frames by which it leans before the bend.
   */
  lead?: number;
  /**
   * Degrees by which it leans at most; 0 or left out: as far as the speed asks.
   */
  limit?: number;
}
export interface Keyed10 {
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
export interface Running10 {
  speed: number;
  start?: number;
}
export interface Driven10 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun10 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning10 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling10 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed11 {
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
export interface Running11 {
  speed: number;
  start?: number;
}
export interface Driven11 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun11 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning11 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling11 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Tint".
 */
export interface Tint {
  /**
   * As #RRGGBB in sRGB; takes the place of the material's colour.
   */
  colour: string;
  /**
   * The first piece that has it counted from 1; 0 or left out: 1.
   */
  from?: number;
  /**
   * Every n-th piece from that one on; 0 or left out: that piece alone.
   */
  every?: number;
  /**
   * All pieces have it more and more from the first to the last; from and every say nothing.
   */
  along?: boolean;
}
/**
 * Pieces one behind the other.
 */
export interface Train {
  /**
   * ends: both of a piece's pins lie on the path and it is never stretched; bent: it takes the form of the path.
   */
  seat?: "pivot" | "ends" | "bent";
  spacing: Spacing;
  /**
   * What a piece does that leaves an open path.
   */
  pastEnd?: "straight on" | "come round";
  arrive?: Arrivals;
  leave?: Arrivals;
  fall?: Fall;
  /**
   * Pieces that are of another part; later entries win.
   */
  others?: Others[];
  /**
   * Other shapes of its part that are put on before it is bent: of seat bent.
   */
  blends?: BlendAmount[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Spacing".
 */
export interface Spacing {
  mode?: "set count" | "set pitch" | "close up" | "scatter";
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
   * Of scatter.
   */
  seed?: number;
  /**
   * Of scatter: from 0 for places at random to 1 for an even spacing.
   */
  even?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Arrivals".
 */
export interface Arrivals {
  /**
   * Frame at which the first piece sets out.
   */
  first: number;
  /**
   * Frames from one piece to the next.
   */
  delay: number;
  /**
   * Frames that a piece is under way.
   */
  takes: number;
  /**
   * Who sets out when. By distance: those with the longest way first and a pitch apart.
   */
  order?: "last first" | "first first" | "by distance" | "scattered";
  seed?: number;
  /**
   * The end of the path that they come from or go to.
   */
  end?: "start" | "end";
  ease?: "straight" | "eased";
  /**
   * Pieces are shown while they wait at the end; left out: only once they are under way.
   */
  shown?: boolean;
}
/**
 * Its standing pieces fall one after another.
 */
export interface Fall {
  /**
   * Frame at which the first piece is let go.
   */
  first: number;
  /**
   * Degrees a second at which the first piece is pushed; instead of tilt.
   */
  speed?: number;
  /**
   * Degrees that it is tilted then; 0 or left out: two degrees beyond its balance or half way from there to the next piece.
   */
  tilt?: number;
  /**
   * Frames that the push to that tilt takes before it is let go.
   */
  push?: number;
  /**
   * The piece that is let go first counted from the end that begins; those before it stay standing. 1 where left out. Where both ways fall: it falls ahead and the one before it back; 0 or left out: the one in the middle.
   */
  piece?: number;
  /**
   * The end of the row that begins; both: from a piece on to both ends.
   */
  from?: "start" | "end" | "both";
  /**
   * Id of a rig of rigid pieces that sets it off: the first piece that it touches falls the way it is pushed and at that speed. First and tilt and push and speed and piece and from then say nothing.
   */
  rig?: string;
  /**
   * Id of a carrier that sets it off likewise: by the fixtures on it or by its place where there are none.
   */
  carrier?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Others".
 */
export interface Others {
  /**
   * Id of the part.
   */
  part: string;
  /**
   * Every n-th piece; 0 or left out: those listed.
   */
  every?: number;
  /**
   * The first of them counted from 1; n where left out.
   */
  first?: number;
  /**
   * Their numbers from 1 on; instead of every.
   */
  pieces?: number[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "BlendAmount".
 */
export interface BlendAmount {
  /**
   * Of the part's blend such as jaw.
   */
  name: string;
  /**
   * 0: none of it; 1: all of it.
   */
  amount: number | Keyed12 | Running12 | Driven12 | Spun12 | Turning12 | Rolling12;
}
export interface Keyed12 {
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
export interface Running12 {
  speed: number;
  start?: number;
}
export interface Driven12 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun12 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning12 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling12 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * One thing that the path carries.
 */
export interface Rider {
  /**
   * What it does when it leaves an open path.
   */
  pastEnd?: "straight on" | "come round";
  lead?: Lead;
  /**
   * The radius in metres on which it rolls and turns.
   */
  rolling?: number;
}
/**
 * The rig that it goes along with; travel is then its lead or below 0 its lag.
 */
export interface Lead {
  /**
   * Id of the rig that it goes along with.
   */
  rig: string;
  at?: "head" | "middle" | "tail" | "piece";
  /**
   * Which piece from 1 on where at is piece.
   */
  piece?: number;
}
/**
 * One thing that takes the form of the path.
 */
export interface Body {
  /**
   * How much of the path the body covers: as much as it is long or all of it or from tail to head.
   */
  fit?: "own length" | "whole path" | "reach";
  /**
   * The place of the body that stands at the travel.
   */
  anchor?: "tail" | "middle" | "head";
  /**
   * Of fit reach: metres along the path to the tail; the travel is added.
   */
  tail?: number | Keyed13 | Running13 | Driven13 | Spun13 | Turning13 | Rolling13;
  /**
   * Of fit reach: metres along the path to the head; the travel is added.
   */
  head?: number | Keyed14 | Running14 | Driven14 | Spun14 | Turning14 | Rolling14;
  /**
   * Drawn out it gets thinner and pressed together thicker.
   */
  keepVolume?: boolean;
  /**
   * Scale of the sections along the body.
   */
  taper?: TaperBead[];
  /**
   * Degrees that the head is turned against the tail.
   */
  twist?: number | Keyed15 | Running15 | Driven15 | Spun15 | Turning15 | Rolling15;
  rounds?: Rounds;
  /**
   * What it does when it leaves an open path.
   */
  pastEnd?: "straight on" | "come round" | "stop";
  lead?: Lead1;
  /**
   * Other shapes of its part that are put on before it is bent.
   */
  blends?: BlendAmount[];
}
export interface Keyed13 {
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
export interface Running13 {
  speed: number;
  start?: number;
}
export interface Driven13 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun13 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning13 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling13 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed14 {
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
export interface Running14 {
  speed: number;
  start?: number;
}
export interface Driven14 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun14 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning14 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling14 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "TaperBead".
 */
export interface TaperBead {
  /**
   * From 0 at the tail to 1 at the head.
   */
  at: number;
  scale: number;
}
export interface Keyed15 {
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
export interface Running15 {
  speed: number;
  start?: number;
}
export interface Driven15 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun15 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning15 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling15 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Rounds".
 */
export interface Rounds {
  count: number;
  /**
   * Frames of a round.
   */
  frames: number;
  /**
   * Metres along the path from round to round.
   */
  stride: number;
  /**
   * Every copy is shown at all times; left out: each only in its own round.
   */
  all?: boolean;
}
/**
 * The rig that it goes along with; travel is then its lead or below 0 its lag.
 */
export interface Lead1 {
  /**
   * Id of the rig that it goes along with.
   */
  rig: string;
  at?: "head" | "middle" | "tail" | "piece";
  /**
   * Which piece from 1 on where at is piece.
   */
  piece?: number;
}
/**
 * A roll that lays out a sheet or winds it up.
 */
export interface Payout {
  /**
   * Of the sheet in metres.
   */
  width: number;
  /**
   * Of the sheet in metres.
   */
  thickness: number;
  /**
   * Of the roll with all of the sheet on it.
   */
  radius: number;
  /**
   * Of the bare core.
   */
  core: number;
  /**
   * It winds up what lies before it; left out: it lays out.
   */
  winds?: boolean;
  /**
   * Id of the sheet's material; the core is of its part's.
   */
  material?: string;
  /**
   * Metres that it rolls on when the sheet has run out.
   */
  away?: number | Keyed16 | Running16 | Driven16 | Spun16 | Turning16 | Rolling16;
}
export interface Keyed16 {
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
export interface Running16 {
  speed: number;
  start?: number;
}
export interface Driven16 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun16 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning16 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling16 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * A drum that pays out the hanging cable that its path is.
 */
export interface Drum {
  /**
   * Of the bare barrel in metres.
   */
  radius: number;
  /**
   * Between the flanges.
   */
  width: number;
  rope: number;
  /**
   * Metres of rope on the drum when nothing has been paid out.
   */
  wound: number;
  /**
   * Id of the rope's material; the barrel is of its part's.
   */
  material?: string;
  /**
   * The rope leaves it from below; left out: over its top.
   */
  under?: boolean;
}
/**
 * Cloth that hangs from the path or is drawn along it.
 */
export interface Drape {
  /**
   * What of it is held on the path: its upper edge or that edge's two corners or every n-th point of that edge or points that are chosen.
   */
  hang?: "edge" | "corners" | "every" | "points";
  /**
   * Of hang every: n.
   */
  every?: number;
  /**
   * Of hang points: numbers of points of the cloth from 0.
   */
  points?: number[];
  /**
   * How much of the path it covers: as much as it is long or from tail to head with folds where it is less.
   */
  fit?: "own length" | "reach";
  /**
   * Of fit reach: metres along the path to the tail; the travel is added.
   */
  tail?: number | Keyed17 | Running17 | Driven17 | Spun17 | Turning17 | Rolling17;
  /**
   * Of fit reach: metres along the path to the head; the travel is added.
   */
  head?: number | Keyed18 | Running18 | Driven18 | Spun18 | Turning18 | Rolling18;
  /**
   * The place of the cloth that stands at the travel.
   */
  anchor?: "tail" | "middle" | "head";
  /**
   * How many there are; 1 where left out.
   */
  count?: number;
  /**
   * From each to the next in metres.
   */
  pitch?: number;
  fabric: Fabric;
  flow?: Flow;
  /**
   * Share of its weight that is carried.
   */
  buoyancy?: number;
  /**
   * Share of its speed that it loses a second as a power of e.
   */
  damping?: number;
  /**
   * Metres from ground and fixtures at which it touches them.
   */
  thickness?: number;
  friction?: number;
  /**
   * It passes through itself; left out: it does not.
   */
  through?: boolean;
  /**
   * Metres by which its points are off the flat sheet at first.
   */
  wrinkle?: number;
  /**
   * Of wrinkles and gusts.
   */
  seed?: number;
  /**
   * Seconds before the range for which it hangs where it begins.
   */
  settle?: number;
  /**
   * How often the range is gone through before it is shown.
   */
  rounds?: number;
  /**
   * Frames at the end of the range that are led over into its beginning as it came out of the round before.
   */
  ease?: number;
  /**
   * Steps of the simulation a frame; 0 or left out: as many as keep it from stretching by its own weight by more than 4 thousandths beyond its fabric.
   */
  substeps?: number;
}
export interface Keyed17 {
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
export interface Running17 {
  speed: number;
  start?: number;
}
export interface Driven17 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun17 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning17 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling17 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed18 {
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
export interface Running18 {
  speed: number;
  start?: number;
}
export interface Driven18 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun18 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning18 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling18 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Fabric".
 */
export interface Fabric {
  /**
   * Kilograms a square metre.
   */
  weight: number;
  /**
   * Newtons a metre of width that would draw it out to twice its length.
   */
  stretch: number;
  shear?: number;
  /**
   * Metres: Peirce's bending length (ASTM D1388).
   */
  bending?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Flow".
 */
export interface Flow {
  medium?: "none" | "air" | "water";
  /**
   * Metres a second.
   *
   * @minItems 3
   * @maxItems 3
   */
  speed?: [number, number, number];
  /**
   * Share of the speed by which it swells and falls by the seed; comes round with the range.
   */
  gusts?: number;
}
/**
 * A figure whose motion was made going straight
 */
export interface Cycle {
  /**
   * Metres that a round of the cycle goes; 0 or left out: as far as its keys do.
   */
  stride?: number;
  /**
   * Rounds by which it is further in its cycle than its distance says.
   */
  start?: number;
  /**
   * distance: a round every stride so that its feet are true at any speed; time: as fast as its keys.
   */
  pace?: "distance" | "time";
  /**
   * Joints or sets that turn with the way at their own distance; left out: all goes by its root.
   */
  follow?: string[];
  /**
   * Of joints that follow: kept: they turn with the way and stay where their bones have them; drawn: they stand where the way puts them and their bones are as long as that asks.
   */
  bones?: "kept" | "drawn";
  /**
   * reach: feet stand still along the way where they stand in the cycle and legs reach for them; free: legs go along as they are.
   */
  legs?: "reach" | "free";
  /**
   * What it stands on; left out: what is found in its motion.
   */
  feet?: Foot[];
  /**
   * Feet and root follow the ground below them and feet its slope.
   */
  ground?: boolean;
  /**
   * Named sets of joints.
   */
  sets?: Set[];
  /**
   * Turns and shifts on top.
   */
  layers?: Layer[];
  /**
   * How many there are; 1 where left out.
   */
  count?: number;
  /**
   * From each to the next in metres.
   */
  pitch?: number;
  /**
   * Rounds by which each copy is further in its cycle than the one before.
   */
  phase?: number;
  /**
   * Metres by which copies stand off their places at most by the seed; their cycle too.
   */
  stray?: number;
  seed?: number;
  /**
   * Shares of the travel by which copies go; in turn; left out: all go as the travel says.
   */
  speeds?: number[];
  pastEnd?: "straight on" | "come round";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Foot".
 */
export interface Foot {
  joint: string;
  /**
   * Its tip stands and the joint turns with its leg; left out: the joint itself is set down.
   */
  tip?: boolean;
  /**
   * How many joints its leg has; 0 or left out: up to the one from which others hang too.
   */
  joints?: number;
  /**
   * When it stands: from and to in rounds; left out: as found.
   */
  plants?: [number, number][];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Set".
 */
export interface Set {
  name: string;
  joints: string[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Layer".
 */
export interface Layer {
  name: string;
  off?: boolean;
  /**
   * Names of joints or sets.
   */
  joints: string[];
  /**
   * Degrees to the left.
   */
  heading?: number | Keyed19 | Running19 | Driven19 | Spun19 | Turning19 | Rolling19;
  /**
   * Degrees nose up.
   */
  pitch?: number | Keyed20 | Running20 | Driven20 | Spun20 | Turning20 | Rolling20;
  /**
   * Degrees left side up.
   */
  bank?: number | Keyed21 | Running21 | Driven21 | Spun21 | Turning21 | Rolling21;
  /**
   * Metres to the left.
   */
  aside?: number | Keyed22 | Running22 | Driven22 | Spun22 | Turning22 | Rolling22;
  /**
   * Metres up.
   */
  rise?: number | Keyed23 | Running23 | Driven23 | Spun23 | Turning23 | Rolling23;
  /**
   * Metres ahead.
   */
  ahead?: number | Keyed24 | Running24 | Driven24 | Spun24 | Turning24 | Rolling24;
  /**
   * Metres of way by which it looks ahead.
   */
  looks?: number;
}
export interface Keyed19 {
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
export interface Running19 {
  speed: number;
  start?: number;
}
export interface Driven19 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun19 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning19 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling19 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed20 {
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
export interface Running20 {
  speed: number;
  start?: number;
}
export interface Driven20 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun20 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning20 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling20 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed21 {
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
export interface Running21 {
  speed: number;
  start?: number;
}
export interface Driven21 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun21 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning21 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling21 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed22 {
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
export interface Running22 {
  speed: number;
  start?: number;
}
export interface Driven22 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun22 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning22 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling22 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed23 {
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
export interface Running23 {
  speed: number;
  start?: number;
}
export interface Driven23 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun23 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning23 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling23 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed24 {
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
export interface Running24 {
  speed: number;
  start?: number;
}
export interface Driven24 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun24 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning24 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling24 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Camera".
 */
export interface Camera {
  id: string;
  name: string;
  /**
   * Where it is in metres: in the world or in the space of what it rides on or from its place on its path.
   *
   * @minItems 3
   * @maxItems 3
   */
  at: [
    number | Keyed25 | Running25 | Driven25 | Spun25 | Turning25 | Rolling25,
    number | Keyed25 | Running25 | Driven25 | Spun25 | Turning25 | Rolling25,
    number | Keyed25 | Running25 | Driven25 | Spun25 | Turning25 | Rolling25
  ];
  turn?: Turn1;
  /**
   * Id of the carrier that it rides and turns with.
   */
  carrier?: string;
  ride?: Ride1;
  beside?: Beside;
  aim?: Aim;
  /**
   * Focal length in mm on a picture 36 mm wide; 0 or left out: 35.
   */
  lens?: number | Keyed27 | Running27 | Driven27 | Spun27 | Turning27 | Rolling27;
  /**
   * Of its picture in pixels; 0 or left out: 1280.
   */
  width?: number;
  /**
   * Of its picture in pixels; 0 or left out: 720.
   */
  height?: number;
}
export interface Keyed25 {
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
export interface Running25 {
  speed: number;
  start?: number;
}
export interface Driven25 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun25 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning25 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling25 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * Where it looks; of one that is aimed only its bank counts.
 */
export interface Turn1 {
  /**
   * Degrees to the left.
   */
  heading?: number | Keyed1 | Running1 | Driven1 | Spun1 | Turning1 | Rolling1;
  /**
   * Degrees nose up.
   */
  pitch?: number | Keyed2 | Running2 | Driven2 | Spun2 | Turning2 | Rolling2;
  /**
   * Degrees left side up.
   */
  bank?: number | Keyed3 | Running3 | Driven3 | Spun3 | Turning3 | Rolling3;
}
/**
 * The path that it goes along.
 */
export interface Ride1 {
  /**
   * Id of the path.
   */
  path: string;
  /**
   * Metres from the path's start.
   */
  distance: number | Keyed4 | Running4 | Driven4 | Spun4 | Turning4 | Rolling4;
  /**
   * level: with the path's heading but upright.
   */
  turning?: "with the path" | "level" | "none";
}
/**
 * What it goes alongside without turning: it moves as that has moved since the first frame.
 */
export interface Beside {
  /**
   * Id of the rig.
   */
  rig?: string;
  /**
   * Id of the carrier; instead of rig.
   */
  carrier?: string;
}
/**
 * What it looks at whatever moves; left out: it looks where it is turned.
 */
export interface Aim {
  /**
   * A place in the world in metres; from what is named: so far from that.
   *
   * @minItems 3
   * @maxItems 3
   */
  at?: [
    number | Keyed26 | Running26 | Driven26 | Spun26 | Turning26 | Rolling26,
    number | Keyed26 | Running26 | Driven26 | Spun26 | Turning26 | Rolling26,
    number | Keyed26 | Running26 | Driven26 | Spun26 | Turning26 | Rolling26
  ];
  /**
   * Id of the rig.
   */
  rig?: string;
  /**
   * Id of the carrier; instead of rig.
   */
  carrier?: string;
}
export interface Keyed26 {
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
export interface Running26 {
  speed: number;
  start?: number;
}
export interface Driven26 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun26 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning26 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling26 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
export interface Keyed27 {
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
export interface Running27 {
  speed: number;
  start?: number;
}
export interface Driven27 {
  /**
   * The value that is followed: rigs/ID/travel and the like.
   */
  of: string;
  ratio?: number;
  offset?: number;
}
export interface Spun27 {
  /**
   * Turns of the wheel a minute.
   */
  rpm: number;
  /**
   * Radius of the wheel at the path in metres.
   */
  radius: number;
  start?: number;
}
export interface Turning27 {
  /**
   * Times round the path a loop; of values in degrees: whole turns.
   */
  turns: number;
  /**
   * Frames of a loop; 0 or left out: the range.
   */
  frames?: number;
  start?: number;
}
export interface Rolling27 {
  /**
   * Id of the carrier.
   */
  rolls: string;
  /**
   * Left out: where the path lies.
   */
  side?: "left" | "right" | "middle";
  /**
   * Metres from the left track to the right one; 0 or left out: where the path lies.
   */
  gauge?: number;
  /**
   * The other way round than the path's lower run asks for.
   */
  flip?: boolean;
  start?: number;
}
/**
 * The sun; left out: over the left shoulder on a clear day.
 */
export interface Light {
  /**
   * Degrees to the left of z from which it shines.
   */
  heading: number;
  /**
   * Degrees above the horizon.
   */
  height: number;
  /**
   * 1 is a clear day.
   */
  strength: number;
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
 * via the `definition` "Kept".
 */
export interface Kept {
  id: string;
  revision: number;
  undo: string;
  redo: string;
  doc?: Document;
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
  beginning?: boolean;
  unreadable?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "About".
 */
export interface About {
  version: string;
  kind: string;
  starters: Starter[];
  bakes: Format[];
  imports: string[];
  destinations: Destination[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Starter".
 */
export interface Starter {
  id: string;
  name: string;
  text: string;
  questions?: Question[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Question".
 */
export interface Question {
  id: string;
  text: string;
  answer: string;
  options?: string[];
  unit?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Format".
 */
export interface Format {
  ending: string;
  name: string;
  text: string;
  group: string;
  lines?: boolean;
  single?: boolean;
  exact?: boolean;
  solver?: boolean;
  figures?: boolean;
  only?: boolean;
  bodies?: boolean;
  keys?: boolean;
  nested?: boolean;
  instances?: boolean;
  drawn?: boolean;
  units?: boolean;
  clips?: boolean;
  still?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Destination".
 */
export interface Destination {
  id: string;
  name: string;
  text: string;
  formats: string[];
  choices: Options;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Options".
 */
export interface Options {
  /**
   * The ending of the file that is wanted.
   */
  format?: string;
  /**
   * The paths go along as lines.
   */
  paths?: boolean;
  /**
   * The ids of the rigs that are baked; left out: all.
   */
  rigs?: string[];
  /**
   * Every piece has a mesh of its own.
   */
  single?: boolean;
  /**
   * With single: the origin of a piece is its centre instead of its pivot.
   */
  centred?: boolean;
  /**
   * Above 0: pieces as rigid bodies for a solver. kg/m³.
   */
  density?: number;
  /**
   * Bodies that bend as they are in every frame instead of as joints.
   */
  exact?: boolean;
  /**
   * The roots of figures stay where they are in the first frame but for their height.
   */
  inPlace?: boolean;
  /**
   * Figures have keys where their cycle has them and where tolerance asks for more.
   */
  ownKeys?: boolean;
  /**
   * With ownKeys: how far a joint may be off between keys. Metres.
   */
  tolerance?: number;
  /**
   * Every n-th frame; 0 or 1: every one.
   */
  step?: number;
  /**
   * Where time begins: at the first frame that is baked or at the first of the range or so that a key's time is its frame's number.
   */
  time?: "zero" | "range" | "frames" | "";
  /**
   * Everything stands in the world instead of below its carriers.
   */
  flat?: boolean;
  /**
   * An animation for each rig instead of one of all.
   */
  perRig?: boolean;
  /**
   * Rigid pieces as instances of one mesh.
   */
  instances?: boolean;
  /**
   * The sizes of images stand beside them (KHR_texture_transform) with texture coordinates in metres.
   */
  imageSizes?: boolean;
  /**
   * Of a loop that is baked to its end: the frame after the last too which is the first again.
   */
  closing?: boolean;
  /**
   * How large a file of value clips may be. MB; left out: 64.
   */
  clipMB?: number;
  /**
   * The plane of a drawing; left out: side.
   */
  plane?: "side" | "ahead" | "above" | "";
  /**
   * Units stand behind the names of a table's columns.
   */
  units?: boolean;
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
  frames?: number[];
  doc?: unknown;
  patch?: unknown;
  fill: boolean;
  stop?: boolean;
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
  reach?: [number, number, number][];
  ground?: number[];
  values?: CurveReadout[];
  materials: Material[];
  wheels: number;
  groundMaterial: number;
  meshes: string[];
  wheelMeshes: string[][];
  moulds: string[][];
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
  wheels?: WheelReadout[];
  belt?: BeltReadout;
  chain?: ChainReadout;
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
 * via the `definition` "WheelReadout".
 */
export interface WheelReadout {
  /**
   * @minItems 3
   * @maxItems 3
   */
  at: [number, number, number];
  radius: number;
  width: number;
  teeth: number;
  back: boolean;
  touches: boolean;
  from: number;
  to: number;
  angleDeg: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "BeltReadout".
 */
export interface BeltReadout {
  length: number;
  taut: number;
  kept: number;
  spare: number;
  takenUp: number;
  hanging: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ChainReadout".
 */
export interface ChainReadout {
  pitch: number;
  centres: number;
  exact: number;
  handbook: number;
  ratio: number;
  links: LinksReadout[];
  /**
   * @minItems 2
   * @maxItems 2
   */
  chordal: [number, number];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "LinksReadout".
 */
export interface LinksReadout {
  links: number;
  centres: number;
  hangs: number;
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
  materials: number[];
  groups?: PartGroup[];
  tiles?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PartGroup".
 */
export interface PartGroup {
  name: string;
  first: number;
  count: number;
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
  row: boolean;
  jointed: boolean;
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
  way?: number[];
  guideNear?: number;
  guideNearAt?: number;
  guideAhead?: number;
  guideAheadAt?: number;
  fall?: FallReadout;
  cloth?: ClothReadout;
  cycle?: CycleReadout;
  drum?: DrumReadout;
  payout?: PayoutReadout;
  notes?: string[];
  deviation: number;
  deviationPiece: number;
  body?: BodyReadout;
  made: number;
  colours?: string[];
  drawn: number;
  pinned: boolean;
  pattern: number;
  kinds?: number[];
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
 * via the `definition` "FallReadout".
 */
export interface FallReadout {
  fallen: number;
  of: number;
  piece?: number;
  why?: string;
  begins: number;
  first: number;
  ends: number;
  rate: number;
  tilt: number;
  speed?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ClothReadout".
 */
export interface ClothReadout {
  points: number;
  held: number;
  substeps: number;
  spacing: number;
  mass: number;
  fullness: number;
  fine?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "CycleReadout".
 */
export interface CycleReadout {
  joints: JointReadout[];
  keys: number;
  seconds: number;
  stride: number;
  own: number;
  pace: number;
  closed: boolean;
  missPlace: number;
  missTurn: number;
  aside: number;
  rise: number;
  feet: FootReadout[];
  rounds?: number[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "JointReadout".
 */
export interface JointReadout {
  name: string;
  parent: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "FootReadout".
 */
export interface FootReadout {
  joint: string;
  tip?: boolean;
  joints: number;
  plants: [number, number][];
  slides: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "DrumReadout".
 */
export interface DrumReadout {
  layers: number;
  turns: number;
  hangs: number;
  diameter: number;
  runsOut?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "PayoutReadout".
 */
export interface PayoutReadout {
  capacity: number;
  turns: number;
  reaches: number;
  runsOut?: number;
  fitRadius: number;
  fitThickness: number;
  vertices: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "BodyReadout".
 */
export interface BodyReadout {
  vertices: number;
  sections: number;
  length: number;
  blends?: string[];
  tail: number;
  head: number;
  stretch: number;
  longest?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "FixtureReadout".
 */
export interface FixtureReadout {
  id: string;
  part: number;
  place: number[];
  materials: number[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "CurveReadout".
 */
export interface CurveReadout {
  ref: string;
  name: string;
  unit: string;
  first: number;
  step: number;
  values: number[];
  speed: number[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Checks".
 */
export interface Checks {
  results: Result[];
  seen: number;
  of: number;
  looked: number;
  waiting: string[];
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
  op: "add" | "replace";
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
 * via the `definition` "Moved".
 */
export interface Moved {
  revision: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Simulating".
 */
export interface Simulating {
  done: number;
  of: number;
  left: number;
  stopped?: boolean;
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
 * via the `definition` "ReadImage".
 */
export interface ReadImage {
  asset: string;
  name: string;
  width: number;
  height: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ReadMaterial".
 */
export interface ReadMaterial {
  material: Material;
  wants?: {
    [k: string]: string;
  };
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "ReadFigure".
 */
export interface ReadFigure {
  asset: string;
  name: string;
  figure: FigureFile;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "FigureFile".
 */
export interface FigureFile {
  joints: JointReadout[];
  keys: number;
  seconds: number;
  forward: string;
  up: string;
  goes: number;
  floor: number;
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
  skinned: boolean;
  unit: string;
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
  scene?: string;
  name: string;
  format: string;
  first: number;
  last: number;
  done: number;
  total: number;
  state: "running" | "finished" | "failed";
  left: number;
  bytes: number;
  detail?: string;
  notes?: string[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "AskBake".
 */
export interface AskBake {
  /**
   * The id of a scene that the server keeps; or else a doc.
   */
  scene?: string;
  /**
   * With a scene: the revision that is meant; left out: the newest.
   */
  revision?: number;
  /**
   * A scene document; or else a scene.
   */
  doc?: {
    [k: string]: unknown;
  };
  /**
   * The first frame; left out: the range's.
   */
  first?: number;
  /**
   * The last frame; left out: the range's.
   */
  last?: number;
  /**
   * The ending of the file that is wanted.
   */
  format?: string;
  /**
   * The paths go along as lines.
   */
  paths?: boolean;
  /**
   * The ids of the rigs that are baked; left out: all.
   */
  rigs?: string[];
  /**
   * Every piece has a mesh of its own.
   */
  single?: boolean;
  /**
   * With single: the origin of a piece is its centre instead of its pivot.
   */
  centred?: boolean;
  /**
   * Above 0: pieces as rigid bodies for a solver. kg/m³.
   */
  density?: number;
  /**
   * Bodies that bend as they are in every frame instead of as joints.
   */
  exact?: boolean;
  /**
   * The roots of figures stay where they are in the first frame but for their height.
   */
  inPlace?: boolean;
  /**
   * Figures have keys where their cycle has them and where tolerance asks for more.
   */
  ownKeys?: boolean;
  /**
   * With ownKeys: how far a joint may be off between keys. Metres.
   */
  tolerance?: number;
  /**
   * Every n-th frame; 0 or 1: every one.
   */
  step?: number;
  /**
   * Where time begins: at the first frame that is baked or at the first of the range or so that a key's time is its frame's number.
   */
  time?: "zero" | "range" | "frames" | "";
  /**
   * Everything stands in the world instead of below its carriers.
   */
  flat?: boolean;
  /**
   * An animation for each rig instead of one of all.
   */
  perRig?: boolean;
  /**
   * Rigid pieces as instances of one mesh.
   */
  instances?: boolean;
  /**
   * The sizes of images stand beside them (KHR_texture_transform) with texture coordinates in metres.
   */
  imageSizes?: boolean;
  /**
   * Of a loop that is baked to its end: the frame after the last too which is the first again.
   */
  closing?: boolean;
  /**
   * How large a file of value clips may be. MB; left out: 64.
   */
  clipMB?: number;
  /**
   * The plane of a drawing; left out: side.
   */
  plane?: "side" | "ahead" | "above" | "";
  /**
   * Units stand behind the names of a table's columns.
   */
  units?: boolean;
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
  field?: string;
  what?: string;
  was?: string;
  is?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "LoopAnswer".
 */
export interface LoopAnswer {
  offers: LoopOffer[];
  note?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "LoopOffer".
 */
export interface LoopOffer {
  frames: number;
  rounds: number;
  rate: number;
  error: number;
  change: number;
  speed: number;
  text: string;
  edits: Edit[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Aim".
 */
export interface Aim1 {
  /**
   * A place in the world in metres; from what is named: so far from that.
   *
   * @minItems 3
   * @maxItems 3
   */
  at?: [
    number | Keyed26 | Running26 | Driven26 | Spun26 | Turning26 | Rolling26,
    number | Keyed26 | Running26 | Driven26 | Spun26 | Turning26 | Rolling26,
    number | Keyed26 | Running26 | Driven26 | Spun26 | Turning26 | Rolling26
  ];
  /**
   * Id of the rig.
   */
  rig?: string;
  /**
   * Id of the carrier; instead of rig.
   */
  carrier?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Bank".
 */
export interface Bank1 {
  /**
   * 1: as much as the speed asks.
   */
  share: number;
  /**
   * Metres of path over which a bend is looked at; 0 or left out: a tenth of the path.
   */
  over?: number;
  /**
   * Frames by which it leans before the bend.
   */
  lead?: number;
  /**
   * Degrees by which it leans at most; 0 or left out: as far as the speed asks.
   */
  limit?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "BeltEnds".
 */
export interface BeltEnds1 {
  /**
   * Where it is made fast or its drum's hub.
   *
   * @minItems 3
   * @maxItems 3
   */
  from: [number, number, number];
  /**
   * Metres of it off the drum when nothing has been paid out; of a belt without a drum all of it.
   */
  length: number;
  /**
   * Id of the rig that is the drum at its start.
   */
  drum?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Beside".
 */
export interface Beside1 {
  /**
   * Id of the rig.
   */
  rig?: string;
  /**
   * Id of the carrier; instead of rig.
   */
  carrier?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Body".
 */
export interface Body1 {
  /**
   * How much of the path the body covers: as much as it is long or all of it or from tail to head.
   */
  fit?: "own length" | "whole path" | "reach";
  /**
   * The place of the body that stands at the travel.
   */
  anchor?: "tail" | "middle" | "head";
  /**
   * Of fit reach: metres along the path to the tail; the travel is added.
   */
  tail?: number | Keyed13 | Running13 | Driven13 | Spun13 | Turning13 | Rolling13;
  /**
   * Of fit reach: metres along the path to the head; the travel is added.
   */
  head?: number | Keyed14 | Running14 | Driven14 | Spun14 | Turning14 | Rolling14;
  /**
   * Drawn out it gets thinner and pressed together thicker.
   */
  keepVolume?: boolean;
  /**
   * Scale of the sections along the body.
   */
  taper?: TaperBead[];
  /**
   * Degrees that the head is turned against the tail.
   */
  twist?: number | Keyed15 | Running15 | Driven15 | Spun15 | Turning15 | Rolling15;
  rounds?: Rounds;
  /**
   * What it does when it leaves an open path.
   */
  pastEnd?: "straight on" | "come round" | "stop";
  lead?: Lead1;
  /**
   * Other shapes of its part that are put on before it is bent.
   */
  blends?: BlendAmount[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Cycle".
 */
export interface Cycle1 {
  /**
   * Metres that a round of the cycle goes; 0 or left out: as far as its keys do.
   */
  stride?: number;
  /**
   * Rounds by which it is further in its cycle than its distance says.
   */
  start?: number;
  /**
   * distance: a round every stride so that its feet are true at any speed; time: as fast as its keys.
   */
  pace?: "distance" | "time";
  /**
   * Joints or sets that turn with the way at their own distance; left out: all goes by its root.
   */
  follow?: string[];
  /**
   * Of joints that follow: kept: they turn with the way and stay where their bones have them; drawn: they stand where the way puts them and their bones are as long as that asks.
   */
  bones?: "kept" | "drawn";
  /**
   * reach: feet stand still along the way where they stand in the cycle and legs reach for them; free: legs go along as they are.
   */
  legs?: "reach" | "free";
  /**
   * What it stands on; left out: what is found in its motion.
   */
  feet?: Foot[];
  /**
   * Feet and root follow the ground below them and feet its slope.
   */
  ground?: boolean;
  /**
   * Named sets of joints.
   */
  sets?: Set[];
  /**
   * Turns and shifts on top.
   */
  layers?: Layer[];
  /**
   * How many there are; 1 where left out.
   */
  count?: number;
  /**
   * From each to the next in metres.
   */
  pitch?: number;
  /**
   * Rounds by which each copy is further in its cycle than the one before.
   */
  phase?: number;
  /**
   * Metres by which copies stand off their places at most by the seed; their cycle too.
   */
  stray?: number;
  seed?: number;
  /**
   * Shares of the travel by which copies go; in turn; left out: all go as the travel says.
   */
  speeds?: number[];
  pastEnd?: "straight on" | "come round";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Drape".
 */
export interface Drape1 {
  /**
   * What of it is held on the path: its upper edge or that edge's two corners or every n-th point of that edge or points that are chosen.
   */
  hang?: "edge" | "corners" | "every" | "points";
  /**
   * Of hang every: n.
   */
  every?: number;
  /**
   * Of hang points: numbers of points of the cloth from 0.
   */
  points?: number[];
  /**
   * How much of the path it covers: as much as it is long or from tail to head with folds where it is less.
   */
  fit?: "own length" | "reach";
  /**
   * Of fit reach: metres along the path to the tail; the travel is added.
   */
  tail?: number | Keyed17 | Running17 | Driven17 | Spun17 | Turning17 | Rolling17;
  /**
   * Of fit reach: metres along the path to the head; the travel is added.
   */
  head?: number | Keyed18 | Running18 | Driven18 | Spun18 | Turning18 | Rolling18;
  /**
   * The place of the cloth that stands at the travel.
   */
  anchor?: "tail" | "middle" | "head";
  /**
   * How many there are; 1 where left out.
   */
  count?: number;
  /**
   * From each to the next in metres.
   */
  pitch?: number;
  fabric: Fabric;
  flow?: Flow;
  /**
   * Share of its weight that is carried.
   */
  buoyancy?: number;
  /**
   * Share of its speed that it loses a second as a power of e.
   */
  damping?: number;
  /**
   * Metres from ground and fixtures at which it touches them.
   */
  thickness?: number;
  friction?: number;
  /**
   * It passes through itself; left out: it does not.
   */
  through?: boolean;
  /**
   * Metres by which its points are off the flat sheet at first.
   */
  wrinkle?: number;
  /**
   * Of wrinkles and gusts.
   */
  seed?: number;
  /**
   * Seconds before the range for which it hangs where it begins.
   */
  settle?: number;
  /**
   * How often the range is gone through before it is shown.
   */
  rounds?: number;
  /**
   * Frames at the end of the range that are led over into its beginning as it came out of the round before.
   */
  ease?: number;
  /**
   * Steps of the simulation a frame; 0 or left out: as many as keep it from stretching by its own weight by more than 4 thousandths beyond its fabric.
   */
  substeps?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Drum".
 */
export interface Drum1 {
  /**
   * Of the bare barrel in metres.
   */
  radius: number;
  /**
   * Between the flanges.
   */
  width: number;
  rope: number;
  /**
   * Metres of rope on the drum when nothing has been paid out.
   */
  wound: number;
  /**
   * Id of the rope's material; the barrel is of its part's.
   */
  material?: string;
  /**
   * The rope leaves it from below; left out: over its top.
   */
  under?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Fall".
 */
export interface Fall1 {
  /**
   * Frame at which the first piece is let go.
   */
  first: number;
  /**
   * Degrees a second at which the first piece is pushed; instead of tilt.
   */
  speed?: number;
  /**
   * Degrees that it is tilted then; 0 or left out: two degrees beyond its balance or half way from there to the next piece.
   */
  tilt?: number;
  /**
   * Frames that the push to that tilt takes before it is let go.
   */
  push?: number;
  /**
   * The piece that is let go first counted from the end that begins; those before it stay standing. 1 where left out. Where both ways fall: it falls ahead and the one before it back; 0 or left out: the one in the middle.
   */
  piece?: number;
  /**
   * The end of the row that begins; both: from a piece on to both ends.
   */
  from?: "start" | "end" | "both";
  /**
   * Id of a rig of rigid pieces that sets it off: the first piece that it touches falls the way it is pushed and at that speed. First and tilt and push and speed and piece and from then say nothing.
   */
  rig?: string;
  /**
   * Id of a carrier that sets it off likewise: by the fixtures on it or by its place where there are none.
   */
  carrier?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Ground".
 */
export interface Ground1 {
  /**
   * In rising z; level before the first and behind the last.
   */
  points?: GroundPoint[];
  /**
   * A smooth curve goes through the points.
   */
  smooth?: boolean;
  humps?: Hump[];
  rough?: Rough;
  /**
   * Id of the material; left out: it is drawn as a chart.
   */
  material?: string;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "KeptLength".
 */
export interface KeptLength1 {
  links: number;
  /**
   * Metres.
   */
  pitch: number;
  /**
   * The pitch is the straight distance from pin to pin; left out: along the belt.
   */
  pins?: boolean;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Lead".
 */
export interface Lead2 {
  /**
   * Id of the rig that it goes along with.
   */
  rig: string;
  at?: "head" | "middle" | "tail" | "piece";
  /**
   * Which piece from 1 on where at is piece.
   */
  piece?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Light".
 */
export interface Light1 {
  /**
   * Degrees to the left of z from which it shines.
   */
  heading: number;
  /**
   * Degrees above the horizon.
   */
  height: number;
  /**
   * 1 is a clear day.
   */
  strength: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "OnGround".
 */
export interface OnGround1 {
  /**
   * Frames over which its body gives way; 0 or left out: it follows at once.
   */
  soften?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "OnWheel".
 */
export interface OnWheel1 {
  /**
   * Id of the belt.
   */
  path: string;
  /**
   * Which wheel from 1 on.
   */
  wheel: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Payout".
 */
export interface Payout1 {
  /**
   * Of the sheet in metres.
   */
  width: number;
  /**
   * Of the sheet in metres.
   */
  thickness: number;
  /**
   * Of the roll with all of the sheet on it.
   */
  radius: number;
  /**
   * Of the bare core.
   */
  core: number;
  /**
   * It winds up what lies before it; left out: it lays out.
   */
  winds?: boolean;
  /**
   * Id of the sheet's material; the core is of its part's.
   */
  material?: string;
  /**
   * Metres that it rolls on when the sheet has run out.
   */
  away?: number | Keyed16 | Running16 | Driven16 | Spun16 | Turning16 | Rolling16;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Ride".
 */
export interface Ride2 {
  /**
   * Id of the path.
   */
  path: string;
  /**
   * Metres from the path's start.
   */
  distance: number | Keyed4 | Running4 | Driven4 | Spun4 | Turning4 | Rolling4;
  /**
   * level: with the path's heading but upright.
   */
  turning?: "with the path" | "level" | "none";
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Rider".
 */
export interface Rider1 {
  /**
   * What it does when it leaves an open path.
   */
  pastEnd?: "straight on" | "come round";
  lead?: Lead;
  /**
   * The radius in metres on which it rolls and turns.
   */
  rolling?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Sliding".
 */
export interface Sliding1 {
  /**
   * Degrees of the slide from forward towards up.
   */
  angle?: number;
  /**
   * Metres that it may go against the slide.
   */
  in: number;
  /**
   * Metres that it may go along the slide.
   */
  out: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Spring".
 */
export interface Spring1 {
  /**
   * The pivot of its arm; left out: a slide.
   *
   * @minItems 3
   * @maxItems 3
   */
  arm?: [number, number, number];
  /**
   * Degrees that a slide leans forward.
   */
  tilt?: number;
  /**
   * Metres that its hub may come above its place.
   */
  up: number;
  /**
   * Metres that its hub may drop below its place.
   */
  down: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Stand".
 */
export interface Stand1 {
  /**
   * Metres.
   *
   * @minItems 3
   * @maxItems 3
   */
  at?: [number, number, number];
  /**
   * Degrees to the left.
   */
  heading?: number;
  /**
   * Degrees nose up.
   */
  pitch?: number;
  /**
   * Degrees left side up.
   */
  bank?: number;
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "Train".
 */
export interface Train1 {
  /**
   * ends: both of a piece's pins lie on the path and it is never stretched; bent: it takes the form of the path.
   */
  seat?: "pivot" | "ends" | "bent";
  spacing: Spacing;
  /**
   * What a piece does that leaves an open path.
   */
  pastEnd?: "straight on" | "come round";
  arrive?: Arrivals;
  leave?: Arrivals;
  fall?: Fall;
  /**
   * Pieces that are of another part; later entries win.
   */
  others?: Others[];
  /**
   * Other shapes of its part that are put on before it is bent: of seat bent.
   */
  blends?: BlendAmount[];
}
/**
 * This interface was referenced by `PageSchema`'s JSON-Schema
 * via the `definition` "page".
 */
export interface Page {
  document: Document;
  state: SceneState;
  kept: Kept;
  card: SceneCard;
  about: About;
  problem: Problem;
  live: LiveRequest;
  readout: Readout;
  checks: Checks;
  refusal: Refusal;
  moved: Moved;
  simulating: Simulating;
  readPath: ReadPath;
  readMesh: ReadMesh;
  readImage: ReadImage;
  readMaterial: ReadMaterial;
  readFigure: ReadFigure;
  edgeChain: EdgeChain;
  bake: BakeState;
  askBake: AskBake;
  historyRow: HistoryStep;
  loops: LoopAnswer;
}
