package scene

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"sort"
	"strings"

	"bead/core/motion"
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
)

// Decode reads a document: any bytes give a checked document with its defaults
// filled in, or Faults. Fields that the document's form does not know, fields
// given twice and values of the wrong type are refused with their address.
func Decode(data []byte) (*Document, error) {
	if len(data) > MaxBytes {
		return nil, Faults{{"", fmt.Sprintf("the document has %d bytes: at most %d are read", len(data), MaxBytes)}}
	}
	w := walker{dec: json.NewDecoder(bytes.NewReader(data))}
	w.dec.UseNumber()
	tree, err := w.value("", 0)
	if err == nil {
		if _, more := w.dec.Token(); !errors.Is(more, io.EOF) {
			err = errors.New("there is something after the document's end")
		}
	}
	if err != nil {
		return nil, Faults{syntaxFault(err, data, w.dec.InputOffset())}
	}
	w.match("", tree, reflect.TypeFor[Document]())
	if len(w.faults) > 0 {
		return nil, w.faults
	}
	var d Document
	if err := json.Unmarshal(data, &d); err != nil {
		return nil, Faults{{"", "not a Bead document: " + err.Error()}}
	}
	d.FillDefaults()
	if faults := d.Check(); len(faults) > 0 {
		return nil, faults
	}
	return &d, nil
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
	dec    *json.Decoder
	faults Faults
}

func (w *walker) say(address, format string, args ...any) {
	if len(w.faults) < maxFaults {
		w.faults = append(w.faults, Fault{address, fmt.Sprintf(format, args...)})
	}
}

func (w *walker) value(address string, depth int) (any, error) {
	if depth > maxDepth {
		return nil, fmt.Errorf("nested more than %d deep", maxDepth)
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
			at := join(address, name)
			if _, twice := obj[name]; twice {
				w.say(at, "is given twice")
			}
			if obj[name], err = w.value(at, depth+1); err != nil {
				return nil, err
			}
		}
		_, err = w.dec.Token()
		return obj, err
	case json.Delim('['):
		list := []any{}
		for w.dec.More() {
			v, err := w.value(fmt.Sprintf("%s[%d]", address, len(list)), depth+1)
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

var valueType = reflect.TypeFor[motion.Value]()

// match holds one node of the tree against the type it will be read into.
func (w *walker) match(address string, node any, t reflect.Type) {
	if t == valueType {
		w.matchValue(address, node)
		return
	}
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if node == nil {
		w.say(address, "is null: leave the field out instead")
		return
	}
	switch t.Kind() {
	case reflect.Struct:
		obj, ok := node.(map[string]any)
		if !ok {
			w.say(address, "is %s: an object is accepted", kindOf(node))
			return
		}
		w.matchFields(address, obj, t)
	case reflect.Slice, reflect.Array:
		if t.Elem().Kind() == reflect.Uint8 {
			text, ok := node.(string)
			if _, err := base64.StdEncoding.DecodeString(text); !ok || err != nil {
				w.say(address, "is not base64 text")
			}
			return
		}
		list, ok := node.([]any)
		if !ok {
			w.say(address, "is %s: a list is accepted", kindOf(node))
			return
		}
		if t.Kind() == reflect.Array && len(list) != t.Len() {
			w.say(address, "has %d numbers: %d are accepted", len(list), t.Len())
			return
		}
		for i, v := range list {
			w.match(fmt.Sprintf("%s[%d]", address, i), v, t.Elem())
		}
	case reflect.Float64, reflect.Int, reflect.Int64:
		n, ok := node.(json.Number)
		if !ok {
			w.say(address, "is %s: a number is accepted", kindOf(node))
			return
		}
		if _, err := n.Float64(); err != nil {
			w.say(address, "%s is too large a number", n)
		} else if _, err := n.Int64(); t.Kind() != reflect.Float64 && err != nil {
			w.say(address, "%s is not a whole number", n)
		}
	case reflect.String:
		if _, ok := node.(string); !ok {
			w.say(address, "is %s: a text is accepted", kindOf(node))
		}
	case reflect.Bool:
		if _, ok := node.(bool); !ok {
			w.say(address, "is %s: true or false is accepted", kindOf(node))
		}
	}
}

func (w *walker) matchFields(address string, obj map[string]any, t reflect.Type) {
	fields := map[string]reflect.StructField{}
	var names, missing []string
	for i := range t.NumField() {
		name, options, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		fields[name] = t.Field(i)
		names = append(names, name)
		if _, given := obj[name]; !given && !strings.HasPrefix(options, "omit") {
			missing = append(missing, name)
		}
	}
	given := make([]string, 0, len(obj))
	for name := range obj {
		given = append(given, name)
	}
	sort.Strings(given) // so that the same document gives the same faults
	for _, name := range given {
		f, known := fields[name]
		if !known {
			w.say(join(address, name), "is not a field here: %s are", strings.Join(names, ", "))
			continue
		}
		w.match(join(address, name), obj[name], f.Type)
	}
	// What is there and wrong says more than what is not there.
	for _, name := range missing {
		w.say(join(address, name), "is missing")
	}
}

// matchValue accepts the forms of a value.
func (w *walker) matchValue(address string, node any) {
	obj, ok := node.(map[string]any)
	if !ok {
		if _, isNumber := node.(json.Number); !isNumber {
			w.say(address, `is %s: a number, {"keys": [...]}, {"speed": ...} or a drive, {"of": ...}, {"rpm": ...}, {"turns": ...}, {"rolls": ...}, is accepted`, kindOf(node))
			return
		}
		w.match(address, node, reflect.TypeFor[float64]())
		return
	}
	form := motion.Forms[0]
	for _, f := range motion.Forms[1:] {
		if _, given := obj[f.Field]; given {
			form = f
			break
		}
	}
	w.match(address, node, reflect.TypeOf(form.Type))
	if list, ok := obj["keys"].([]any); ok && len(list) == 0 {
		w.say(address+".keys", "is empty: at least one key is accepted, or a plain number")
	}
}

func kindOf(node any) string {
	switch node.(type) {
	case nil:
		return "null"
	case map[string]any:
		return "an object"
	case []any:
		return "a list"
	case json.Number:
		return "a number"
	case string:
		return "a text"
	}
	return "true or false"
}
