// Package csvtab reads points from and writes bakes to comma-separated tables
// (RFC 4180).
package csvtab

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"bead/core/geom"
)

// Limits of what is read.
const (
	MaxBytes      = 32 << 20
	maxPoints     = 200_000
	maxCoordinate = 1e9
)

// Points is what a table of points holds.
type Points struct {
	Points []geom.Vec // metres
	Closed bool       // the last point repeated the first; it is left out of Points
}

// ReadPoints reads a table with two (x, y) or three (x, y, z) columns of numbers,
// separated by commas, semicolons or tabs. A first line of names says which
// columns to take if it has x, y and z; others are then passed over. Lines that
// begin with # are comments. Errors name the line and the column. Any bytes give
// points or an error.
func ReadPoints(data []byte) (Points, error) {
	if len(data) > MaxBytes {
		return Points{}, fmt.Errorf("the file has %d bytes: at most %d are read", len(data), MaxBytes)
	}
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")) // byte order mark
	r := csv.NewReader(bytes.NewReader(data))
	r.Comment, r.Comma, r.FieldsPerRecord, r.TrimLeadingSpace = '#', separator(data), -1, true
	r.ReuseRecord = true
	columns := []int{0, 1, 2}
	var out []geom.Vec
	width := 0
	for first := true; ; first = false {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			var pe *csv.ParseError
			if errors.As(err, &pe) {
				return Points{}, fmt.Errorf("line %d, column %d: %w", pe.Line, pe.Column, pe.Err)
			}
			return Points{}, err
		}
		line, _ := r.FieldPos(0)
		if first {
			if named, ok := names(row); ok {
				columns = named
				continue
			}
		}
		if width == 0 {
			width = len(row)
			if len(columns) == 3 && width == 2 {
				columns = columns[:2]
			}
		}
		if len(row) != width {
			return Points{}, fmt.Errorf("line %d has %d columns, the lines before it %d", line, len(row), width)
		}
		p, err := point(row, columns, line)
		if err != nil {
			return Points{}, err
		}
		if out = append(out, p); len(out) > maxPoints {
			return Points{}, fmt.Errorf("line %d: more than %d points", line, maxPoints)
		}
	}
	if len(out) < 2 {
		return Points{}, fmt.Errorf("the file holds %d points: at least 2 lines of x, y or x, y, z are accepted", len(out))
	}
	if n := len(out); n > 3 && out[0] == out[n-1] {
		return Points{out[:n-1], true}, nil
	}
	return Points{Points: out}, nil
}

// separator is the first of tab, semicolon and comma to stand in the first line
// that is no comment.
func separator(data []byte) rune {
	for line := range bytes.Lines(data) {
		if len(bytes.TrimSpace(line)) == 0 || line[0] == '#' {
			continue
		}
		for _, c := range "\t;" {
			if bytes.ContainsRune(line, c) {
				return c
			}
		}
		break
	}
	return ','
}

// names finds the columns of x, y and, where there is one, z. ok is false when
// the row holds numbers.
func names(row []string) (columns []int, ok bool) {
	at := map[string]int{}
	numbers := 0
	for i, name := range row {
		if _, err := strconv.ParseFloat(strings.TrimSpace(name), 64); err == nil {
			numbers++
		}
		name = strings.ToLower(strings.TrimSpace(name))
		if _, has := at[name]; !has {
			at[name] = i
		}
	}
	if numbers > 0 {
		return nil, false
	}
	x, hasX := at["x"]
	y, hasY := at["y"]
	z, hasZ := at["z"]
	switch {
	case hasX && hasY && hasZ:
		return []int{x, y, z}, true
	case hasX && hasY:
		return []int{x, y}, true
	}
	return []int{0, 1, 2}, true
}

func point(row []string, columns []int, line int) (geom.Vec, error) {
	var v [3]float64
	for i, c := range columns {
		if c >= len(row) {
			return geom.Vec{}, fmt.Errorf("line %d has %d columns: x, y or x, y, z are accepted", line, len(row))
		}
		text := strings.TrimSpace(row[c])
		x, err := strconv.ParseFloat(text, 64)
		if err != nil || !(math.Abs(x) <= maxCoordinate) {
			return geom.Vec{}, fmt.Errorf("line %d, column %d: %q is not accepted: a number within ±1e9 is", line, c+1, text)
		}
		v[i] = x
	}
	return geom.FromArray(v), nil
}
