package check

import "fmt"

// Entry is the reference text of a check: what it allows, usual causes when it is outside, and what helps.
type Entry struct{ Allows, Causes, Helps string }

func millimetres(metres float64) string { return fmt.Sprintf("%g mm", metres*1000) }

// Reference are the entries of all checks, by their ids.
func Reference() map[string]Entry {
	const ground = "Raise the path or its wheels, or the points of a drawn path by hand; *follow the ground* puts a path on it."
	// Figures come from the tolerances themselves, so that the reference cannot differ from what is measured.
	return map[string]Entry{
		"spacing": {"±" + millimetres(lengthTol) + ", of linked pieces a share of " + fmt.Sprintf("%g", pinShare) + " of the pitch where that is more.",
			"A path that changes over time, with a spacing that is not made anew; scattered pieces, whose spread is told and not judged.",
			"*Close up* or *set count* fit the pitch to the path in every frame."},
		"seam": {"±" + millimetres(lengthTol) + ".", "A pitch that does not go into a closed path a whole number of times.",
			"Close up, or take the count or pitch that is offered."},
		"overlap": {fmt.Sprintf("%g %% of the pitch, so that corners on the inside of bends pass.", overlapShare*100), "Pieces longer than the pitch, or bends tighter than the pieces.",
			"Fit the pitch to the piece or the piece to the pitch; widen the bend; seat pieces on their *ends*."},
		"length": {millimetres(keepTol) + " of the middle line.", "A tail and a head keyed nearer together than the body is long: it is pressed together.",
			"Let it keep its own length, or key tail and head a length apart."},
		"facets": {millimetres(facetTol) + ", or " + fmt.Sprintf("%g", facetShare) + " of its half thickness where that is more.", "Too few segments for the bends that it goes through.",
			"Take the number of segments that is offered."},
		"fold": {fmt.Sprintf("%g %%.", foldTol), "A bend of a smaller radius than the body is thick to its inside.", "Widen the bend, or make the body thinner there with its taper."},
		"strain": {fmt.Sprintf("%g %% of a body, %g %% of a sheet that is laid out.", strainTol, sheetTol), "A thick body on a tight bend; a sheet whose way bends sideways.",
			"Widen the bend; choose a narrower sheet."},
		"ends":    {"Its own length past an open end, where it runs straight on.", "Travel that leads past the path's end.", "End the travel sooner, lengthen the path, or choose another *past its end*."},
		"flips":   {"None.", "The facing has no stable up where the path points along it, or a closed path's twist does not close.", "*Least twist* in place of *steady*; on a loop, *loopside*; roll beads for what is meant."},
		"outward": {"None.", "A tread or belt that faces into its loop.", "Turn the facing *inward* off, or reverse the path."},
		"jumps": {millimetres(jumpTol) + " in no time; jumps of keyed values are told as what was keyed.", "Stepped keys, keys on one frame, a carrier's path that leaps, a wheel that loses its belt.",
			"The frame and what jumps stand in the sentence: go there, and ease the key."},
		"slip": {fmt.Sprintf("%g %% of the greatest speed.", slipTol*100), "Travel that is not that of the ground below the carrier.", "Drive the rig by the carrier's way over the ground: the remedy sets it."},
		"tension": {"±" + millimetres(tensionTol) + ".", "A kept length that is too short for the wheels in some frame, or too long with nothing that takes it up.",
			"Change the number of links, give the idler a take-up or a run its slack; the range that fits is said."},
		"teeth":   {fmt.Sprintf("±%g %% of the pitch.", phaseShare*100), "A sprocket whose turning is not that of its chain, or whose teeth do not go with the pitch.", "Let the chain's travel turn the wheel; take the radius that its teeth and pitch give."},
		"floor":   {millimetres(floorTol) + ", of pieces " + fmt.Sprintf("%g %%", dipShare*100) + " of their pitch where that is more.", "A path that lies in the ground, or pieces that reach below it.", ground},
		"contact": {"±" + millimetres(meetTol) + ".", "A way that is not smooth where the roll rolls.", "Smooth the path."},
		"dips":    {millimetres(lengthTol) + ".", "A dip of the way that is tighter than the roll: the roll lies on both its sides.", "Smooth the dip or widen the core."},
		"stretch": {fmt.Sprintf("%g %%.", clothTol), "A weight that the fabric does not carry, or pins further apart than the cloth is long.", "A stiffer fabric; more sub-steps; pins nearer together."},
		"through": {millimetres(floorTol) + ".", "Fixtures thinner than the points of the cloth are apart, or that move faster than it.", "A thicker cloth, more points, more sub-steps."},
		"itself":  {"None.", "Folds thinner than the distance that points keep.", "A thicker cloth or more points; fewer folds."},
		"rest":    {fmt.Sprintf("%g m/s.", restTol), "A cloth that is still swinging in the last frame of a scene that plays once.", "More damping, a longer range, or a longer time to settle."},
		"slide":   {millimetres(slideTol) + ".", "A plant that is longer than the foot really stands, or a leg too short to hold it.", "Move the plant's ends in the step's chart; see *reach*."},
		"reach":   {millimetres(shortTol) + ".", "Bends tighter than the cycle was made for, or a pace longer than its stride.", "Widen the bend; go by the cycle's own stride; lean."},
		"sink":    {millimetres(sinkTol) + ".", "Ground that the figure does not feel.", "Let it *follow the ground*, or raise the way."},
		"stride":  {fmt.Sprintf("±%g %%.", strideTol), "Travel that goes further or less far in a round than the cycle's stride.", "Drive it by distance, or fit the speed to the stride."},
		"joints":  {fmt.Sprintf("%g ° a frame.", turnTol), "A knee that snaps over where its leg is straight, or stepped keys.", "A little bend in the leg; eased keys."},
		"fall":    {"None left standing.", "A gap wider than a piece is tall, a push too slow, or a piece that the one before does not reach.", "Take the spacing that is offered; push harder."},
		"step":    {"±" + millimetres(stepTol) + ".", "Two rigs driven by different values.", "Let one follow the other: the remedy sets it."},
		"loop":    {millimetres(loopTol) + " of place, " + fmt.Sprintf("%.2g °", loopAngle*inDegrees) + " of turn, " + millimetres(joltTol) + " a frame of speed.", "Travel in the range that is no whole number of pitches or rounds, values that do not come back, cloth that has not settled into its round.", "*Find a loop*; *turns in the range*; ease the last frames into the first. A scene that plays once is not judged."},
	}
}
