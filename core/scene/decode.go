package scene

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"reflect"
	"strconv"
	"strings"
)

// Fault is one thing wrong with a document, at an address such as
// rigs[0].spacing.count.
type Fault struct {
	Address string `json:"address"`
	Message string `json:"message"`
}

// Faults is the error of a document that cannot be used.
type Faults []Fault

func (f Faults) Error() string {
	var b strings.Builder
	for i, x := range f {
		if i > 0 {
			b.WriteString("; ")
		}
		if i == 5 {
			fmt.Fprintf(&b, "and %d more", len(f)-i)
			break
		}
		if x.Address != "" {
			b.WriteString(x.Address + ": ")
		}
		b.WriteString(x.Message)
	}
	return b.String()
}

// MaxBytes is the largest document that is read, with its assets.
const MaxBytes = 48 << 20

const (
	maxDepth  = 32
	maxFaults = 50
	// maxValues bounds the numbers, texts, lists and objects of a document: what reading it
	// takes in memory goes with them.
	maxValues = 1_000_000
)

// Decode is DecodeContext without an end.
func Decode(data []byte) (*Document, error) { return DecodeContext(context.Background(), data) }

// DecodeContext reads a document, one of version 1 as well: any bytes give a checked document
// with its defaults filled in, or Faults with the addresses that they have in what was read. Fields that the document's form does not know, fields
// given twice and values of the wrong type are refused with their address. When ctx ends
// its error is returned.
func DecodeContext(ctx context.Context, data []byte) (*Document, error) {
	// Before a tree is made of it, which takes many times as much.
	if len(data) > MaxBytes {
		return nil, Faults{{"", fmt.Sprintf("the document has %d bytes: at most %d are read", len(data), MaxBytes)}}
	}
	w := walker{ctx: ctx, dec: json.NewDecoder(bytes.NewReader(data))}
	// Numbers stay as they are written, so that faults can show them and whole ones are not rounded.
	w.dec.UseNumber()
	tree, err := w.value(0)
	if err == nil {
		if _, more := w.dec.Token(); !errors.Is(more, io.EOF) {
			err = errors.New("there is something after the document's end")
		}
	}
	if err != nil {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		return nil, Faults{syntaxFault(err, data, w.dec.InputOffset())}
	}
	// A version that is no number, or missing, is left for the matching to say with its address.
	of := version(tree)
	if _, err := strconv.Atoi(of); err == nil && of != "1" && of != strconv.Itoa(Version) {
		return nil, Faults{{"bead", fmt.Sprintf("version %s is not known to this program: 1 to %d are accepted", of, Version)}}
	}
	old := of == "1"
	if old {
		w.faults = append(w.faults, upgrade1(tree)...)
		// The text that is read has to be that of the tree as it is now.
		if data, err = json.Marshal(tree); err != nil {
			return nil, Faults{{"", "not a Bead document: " + err.Error()}}
		}
	}
	d, err := w.document(tree, data)
	var faults Faults
	// A person looks for a fault in the document that he has, not in what it became.
	if old && errors.As(err, &faults) {
		return nil, inVersion1(faults)
	}
	if d != nil {
		d.read1 = old
	}
	return d, err
}

// pointless is a number such as 96.0 or 1e3 without its point; is false of others.
func pointless(n json.Number) (out json.Number, is bool) {
	v, err := n.Float64()
	if err != nil || v != math.Trunc(v) || math.Abs(v) > 1<<53 {
		return n, false
	}
	return json.Number(strconv.FormatInt(int64(v), 10)), true
}

// allPointless writes whole numbers of a tree without a point, as Go reads them.
func allPointless(node any) any {
	switch x := node.(type) {
	case map[string]any:
		for k, v := range x {
			x[k] = allPointless(v)
		}
	case []any:
		for i, v := range x {
			x[i] = allPointless(v)
		}
	case json.Number:
		if n, is := pointless(x); is && x != "-0" && x != "-0.0" {
			return n
		}
	}
	return node
}

// document makes a document of a tree, and of the text of the same.
func (w *walker) document(tree any, data []byte) (*Document, error) {
	if top, is := tree.(map[string]any); is {
		if _, named := top["$schema"].(string); named { // for editors: it says nothing of the scene
			delete(top, "$schema")
			w.rewrite = true
		}
	}
	// Against the types first: the standard decoder names one fault, without its place, and takes misspelt fields in
	// silence.
	w.match(tree, reflect.TypeFor[Document]())
	if w.ended {
		return nil, w.ctx.Err()
	}
	if len(w.faults) > 0 {
		return nil, w.faults
	}
	if w.rewrite {
		var err error
		if data, err = json.Marshal(allPointless(tree)); err != nil {
			return nil, Faults{{"", "not a Bead document: " + err.Error()}}
		}
	}
	if w.ctx.Err() != nil {
		return nil, w.ctx.Err()
	}
	var d Document
	if err := d.read(w.ctx, data); err != nil {
		if w.ctx.Err() != nil {
			return nil, w.ctx.Err()
		}
		return nil, Faults{{"", "not a Bead document: " + err.Error()}}
	}
	// Checks see what is left out as it is meant.
	d.FillDefaults()
	if faults := d.Check(); len(faults) > 0 {
		return nil, faults
	}
	return &d, w.ctx.Err()
}

// read fills a document from its text. Lists are read an entry at a time, so that a long text is given
// up between two of them when ctx ends.
func (d *Document) read(ctx context.Context, data []byte) error {
	dec := json.NewDecoder(bytes.NewReader(data))
	if start, err := dec.Token(); err != nil || start != json.Delim('{') {
		return errors.Join(err, errors.New("an object is accepted"))
	}
	fields := reflect.ValueOf(d).Elem()
	for dec.More() {
		name, err := dec.Token()
		if err != nil {
			return err
		}
		k := fieldKeyed(fields.Type(), fmt.Sprint(name))
		if k == nil {
			return fmt.Errorf("%v is not a field", name)
		}
		at := fields.FieldByIndex(k)
		if at.Kind() != reflect.Slice {
			if err := dec.Decode(at.Addr().Interface()); err != nil {
				return err
			}
			continue
		}
		if err := fillList(ctx, dec, at); err != nil {
			return err
		}
	}
	return nil
}

// fillList reads a list an entry at a time.
func fillList(ctx context.Context, dec *json.Decoder, list reflect.Value) error {
	if _, err := dec.Token(); err != nil {
		return err
	}
	list.Set(reflect.MakeSlice(list.Type(), 0, 0))
	for dec.More() {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		entry := reflect.New(list.Type().Elem())
		if err := dec.Decode(entry.Interface()); err != nil {
			return err
		}
		list.Set(reflect.Append(list, entry.Elem()))
	}
	_, err := dec.Token()
	return err
}

// Encode writes the document as indented JSON that Decode reads back the same.
func (d *Document) Encode() ([]byte, error) {
	out, err := json.MarshalIndent(d, "", "  ")
	if err != nil {
		return nil, err
	}
	return append(out, '\n'), nil
}

func syntaxFault(err error, data []byte, offset int64) Fault {
	var syn *json.SyntaxError
	if errors.As(err, &syn) {
		offset = syn.Offset
	}
	before := data[:min(int(offset), len(data))]
	line := bytes.Count(before, []byte("\n")) + 1
	column := len(before) - bytes.LastIndexByte(before, '\n')
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		err = errors.New("the text ends in the middle of the document")
	}
	return Fault{"", fmt.Sprintf("not JSON at line %d, column %d: %v", line, max(column-1, 1), err)}
}

// walker reads JSON into a tree, then holds the tree against a Go type.
type walker struct {
	ctx    context.Context
	dec    *json.Decoder
	faults Faults
	values int
	at     []turning // the way to where it is
	ended  bool      // nobody waits any more
	// rewrite tells that what was read is to be written anew before it becomes a document.
	rewrite bool
}

// turning is a field, of index -1, or an entry of a list.
type turning struct {
	name  string
	index int
}

// say notes a fault where the walker is. Its address is made only here, for most places have
// none.
func (w *walker) say(format string, args ...any) {
	if w.full() {
		return
	}
	address := ""
	for _, t := range w.at {
		if t.index >= 0 {
			address += fmt.Sprintf("[%d]", t.index)
		} else {
			address = join(address, t.name)
		}
	}
	w.faults = append(w.faults, Fault{address, fmt.Sprintf(format, args...)})
}

// full reports whether more faults would not be told.
func (w *walker) full() bool { return len(w.faults) >= maxFaults }

// in does something at a field, or at an entry of a list, of where the walker is.
func (w *walker) in(name string, index int, do func()) {
	w.at = append(w.at, turning{name, index})
	do()
	w.at = w.at[:len(w.at)-1]
}

// lookUpEvery is after how many values it is seen whether the reading is still wanted.
const lookUpEvery = 4096

func (w *walker) value(depth int) (any, error) {
	if depth > maxDepth {
		return nil, fmt.Errorf("nested more than %d deep", maxDepth)
	}
	if w.values++; w.values > maxValues {
		return nil, fmt.Errorf("the document holds more than %d values: paths with fewer points, or several documents, are accepted", maxValues)
	}
	if w.values%lookUpEvery == 0 && w.ctx.Err() != nil {
		return nil, w.ctx.Err()
	}
	tok, err := w.dec.Token()
	if err != nil {
		return nil, err
	}
	switch tok {
	case json.Delim('{'):
		obj := map[string]any{}
		for w.dec.More() {
			key, err := w.dec.Token()
			if err != nil {
				return nil, err
			}
			name := key.(string)
			w.in(name, -1, func() {
				if _, twice := obj[name]; twice {
					w.say("is given twice")
				}
				obj[name], err = w.value(depth + 1)
			})
			if err != nil {
				return nil, err
			}
		}
		_, err = w.dec.Token()
		return obj, err
	case json.Delim('['):
		list := []any{}
		for w.dec.More() {
			var v any
			w.in("", len(list), func() { v, err = w.value(depth + 1) })
			if err != nil {
				return nil, err
			}
			list = append(list, v)
		}
		_, err = w.dec.Token()
		return list, err
	}
	return tok, nil
}

func join(address, field string) string {
	if address == "" {
		return field
	}
	return address + "." + field
}
