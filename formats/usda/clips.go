package usda

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"strings"
)

// Value clips keep what changes over time in files of its own, so that no file grows beyond a size: the
// scene's layer names them with the frames from which each one counts (OpenUSD's documentation, "Value
// Clips in USD"; from memory). A manifest lists the attributes that they hold.

// clip is a file with the time samples of some frames.
type clip struct {
	out      *bufio.Writer
	from, to int  // keys
	manifest bool // attributes without samples

	open  []string // the prims about what is written
	begun int      // how many of them are in the file
}

// begin writes the prims that are open and not in the file yet.
func (c *clip) begin() {
	for ; c.begun < len(c.open); c.begun++ {
		pad := strings.Repeat("    ", c.begun)
		fmt.Fprintf(c.out, "%sover %q\n%s{\n", pad, c.open[c.begun], pad)
	}
}

// end ends the innermost prim.
func (c *clip) end() {
	c.open = c.open[:len(c.open)-1]
	if c.begun > len(c.open) {
		c.begun = len(c.open)
		c.out.WriteString(strings.Repeat("    ", c.begun) + "}\n")
	}
}

// CloseInClips writes the scene's layer and its clips, none larger than most bytes, as named files, the layer
// first.
func (b *Baker) CloseInClips(most int, add func(name string, data []byte) error) error {
	type file struct {
		from int
		data []byte
	}
	var clips []file
	keys := b.Frames // of a clip; fewer where they turn out too large
	for from := 0; from < b.Frames; {
		// With the first key of the next one, so that what lies between the two has both.
		data, err := b.clipText(&clip{from: from, to: min(from+keys+1, b.Frames)})
		if err != nil {
			return err
		}
		if len(data) > most {
			if keys == 1 {
				return fmt.Errorf("frame %d alone takes %d bytes: files of up to %d MB or more are accepted, or fewer rigs", b.code(from), len(data), len(data)>>20+1)
			}
			keys = max(1, min(keys-1, keys*(most-most/20)/len(data)))
			continue
		}
		clips = append(clips, file{from, data})
		from += min(keys, b.Frames-from)
	}
	manifest, err := b.clipText(&clip{manifest: true})
	if err != nil {
		return err
	}
	var active, paths []string
	for k, c := range clips {
		active = append(active, fmt.Sprintf("(%d, %d)", b.code(c.from), k))
		paths = append(paths, "@./"+clipName(k)+"@")
	}
	first, last := b.code(0), b.code(b.Frames-1)
	meta := fmt.Sprintf(`    clips = {
        dictionary default = {
            double2[] active = [%s]
            asset[] assetPaths = [%s]
            asset manifestAssetPath = @./%s@
            string primPath = "/World"
            double2[] times = [(%d, %d), (%d, %d)]
        }
    }
`, strings.Join(active, ", "), strings.Join(paths, ", "), manifestName, first, first, last, last)
	var layer bytes.Buffer
	if err := b.write(&writer{Writer: bufio.NewWriter(&layer), apart: true}, meta); err != nil {
		return err
	}
	if err := add("scene.usda", layer.Bytes()); err != nil {
		return err
	}
	if err := add(manifestName, manifest); err != nil {
		return err
	}
	for k, c := range clips {
		if err := add(clipName(k), c.data); err != nil {
			return err
		}
	}
	return nil
}

const manifestName = "clips/manifest.usda"

func clipName(k int) string { return fmt.Sprintf("clips/%04d.usda", k+1) }

func (b *Baker) clipText(c *clip) ([]byte, error) {
	var out bytes.Buffer
	c.out = bufio.NewWriter(&out)
	c.out.WriteString("#usda 1.0\n(\n    defaultPrim = \"World\"\n")
	if !c.manifest {
		fmt.Fprintf(c.out, "    startTimeCode = %d\n    endTimeCode = %d\n", b.code(c.from), b.code(c.to-1))
	}
	c.out.WriteString(")\n\n")
	// What stays the same is written to nowhere.
	if err := b.write(&writer{Writer: bufio.NewWriter(io.Discard), clip: c}, ""); err != nil {
		return nil, err
	}
	err := c.out.Flush()
	return out.Bytes(), err
}
