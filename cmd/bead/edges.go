package main

import (
	"encoding/json"
	"fmt"
	"os"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/scene"
	"bead/core/surface"
	"bead/formats"
)

type edgesJSON struct {
	Closed bool         `json:"closed"`
	Length float64      `json:"length"`
	Points []scene.Vec3 `json:"points"`
	// Off is the greatest deviation of a rebuilt path; 0 where it was not asked for.
	Off float64 `json:"off"`
}

// edgesCommand takes a path from the edges of a mesh, as the page does by pointing.
func edgesCommand() *cobra.Command {
	var near, way string
	var tolerance float64
	var asJSON bool
	c := &cobra.Command{Use: "edges FILE --near X,Y,Z", Short: "Follow the edges of a mesh from a place and print the path", Args: cobra.ExactArgs(1),
		Long: "Follow the edges of a mesh (obj, glb, gltf) from the edge nearest to a place. The points are printed as CSV that path sample and the page read, or as JSON.\nWith --tolerance the path is rebuilt with as few points as stay within it; the greatest deviation goes to standard error.",
		RunE: func(c *cobra.Command, args []string) error {
			at, err := parsePlace(near)
			if err != nil {
				return fmt.Errorf("--near: %w", err)
			}
			data, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			mesh, err := formats.ReadMesh(c.Context(), args[0], data)
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			chain, err := mesh.Follow(at, surface.Way(way))
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			curve, err := path.New(path.Polyline(chain.Points, chain.Closed), chain.Closed)
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			out := edgesJSON{Closed: chain.Closed, Length: curve.Length()}
			points := chain.Points
			if tolerance > 0 {
				got := curve.Simplify(tolerance)
				if curve, err = path.New(got.Spans, chain.Closed); err != nil {
					return err
				}
				points, out.Off, out.Length = nil, got.Off, curve.Length()
				for _, p := range path.ToPoints(curve.Spans(), chain.Closed) {
					points = append(points, p.At)
				}
				tell(c, fmt.Sprintf("bead: %d points instead of %d, at most %.3g off", len(points), len(chain.Points), got.Off))
			}
			for _, p := range points {
				out.Points = append(out.Points, p.Array())
			}
			if asJSON {
				return json.NewEncoder(c.OutOrStdout()).Encode(out)
			}
			if chain.Closed { // a table that ends where it starts is read as closed
				points = append(points, points[0])
			}
			fmt.Fprintln(c.OutOrStdout(), "x,y,z")
			for _, p := range points {
				fmt.Fprintln(c.OutOrStdout(), triple(p.Array()))
			}
			return nil
		}}
	f := c.Flags()
	f.StringVar(&near, "near", "", "a place X,Y,Z by the edge to follow, in the file's units")
	f.StringVar(&way, "way", string(surface.Loop), "loop, crease, boundary or middle")
	f.Float64Var(&tolerance, "tolerance", 0, "rebuild the path with fewer points within this distance")
	f.BoolVar(&asJSON, "json", false, "print as JSON")
	_ = c.MarkFlagRequired("near")
	return c
}

func parsePlace(text string) (geom.Vec, error) {
	parts := strings.Split(text, ",")
	var v [3]float64
	if len(parts) != 3 {
		return geom.Vec{}, fmt.Errorf("%q is not accepted: X,Y,Z is, such as 0,1.5,-2", text)
	}
	for i, p := range parts {
		var err error
		if v[i], err = strconv.ParseFloat(strings.TrimSpace(p), 64); err != nil || !geom.FromArray(v).IsFinite() {
			return geom.Vec{}, fmt.Errorf("%q is not a number", p)
		}
	}
	return geom.FromArray(v), nil
}
