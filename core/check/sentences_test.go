package check

import (
	"go/ast"
	"go/parser"
	"go/token"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"bead/core/scene"
)

// TestEveryCodeHasItsSentence holds the codes of the gauges against the table: none is missing, none is left over,
// and each is filled with as many things as it has room for.
func TestEveryCodeHasItsSentence(t *testing.T) {
	files, err := filepath.Glob("*.go")
	if err != nil {
		t.Fatal(err)
	}
	used, strs := map[string]int{}, map[string]bool{}
	for _, name := range files {
		if strings.HasSuffix(name, "_test.go") || name == "sentences.go" {
			continue
		}
		file, err := parser.ParseFile(token.NewFileSet(), name, nil, 0)
		if err != nil {
			t.Fatal(err)
		}
		ast.Inspect(file, func(n ast.Node) bool {
			if l, ok := n.(*ast.BasicLit); ok && l.Kind == token.STRING {
				s, _ := strconv.Unquote(l.Value)
				strs[s] = true
			}
			call, ok := n.(*ast.CallExpr)
			if !ok {
				return true
			}
			if id, ok := call.Fun.(*ast.Ident); ok && id.Name == "say" {
				if l, ok := call.Args[0].(*ast.BasicLit); ok {
					code, _ := strconv.Unquote(l.Value)
					if n, before := used[code]; before && n != len(call.Args)-1 {
						t.Errorf("%s is filled with %d things and with %d", code, n, len(call.Args)-1)
					}
					used[code] = len(call.Args) - 1
				}
			}
			return true
		})
	}
	for code, n := range used {
		template, known := sentences[code]
		if !known {
			t.Errorf("%s has no sentence", code)
		}
		// A percent sign is written twice, and is no room.
		if room := strings.Count(strings.ReplaceAll(template, "%%", ""), "%"); room != n {
			t.Errorf("%s has room for %d, and is filled with %d: %q", code, room, n, template)
		}
	}
	for _, code := range []string{"step.ahead", "step.behind"} { // by the word of the result
		if sentences[code] == "" {
			t.Errorf("%s has no sentence", code)
		}
	}
	for code := range sentences {
		one := strings.TrimSuffix(code, ".many") // what is said of several is made of what is said of one
		if !strs[code] && !strs[one] && !strings.HasPrefix(code, "step.") {
			t.Errorf("nobody says %s", code)
		}
		if _, several := sentences[code+".many"]; strings.HasPrefix(code, "run.") && code == one && !several {
			t.Errorf("%s has no sentence of several", code)
		}
	}
}

// TestSayings holds the parts of a saying: units of the document, sayings within sayings, another order.
func TestSayings(t *testing.T) {
	s := say("seam.closed", 62, length(0.0125), say("every.frame"))
	if got := s.in(scene.Units("mm")); got != "Piece 62 meets piece 1 within 12.5 mm in every frame." {
		t.Error(got)
	}
	if got := s.in(scene.Units("in")); !strings.Contains(got, "0.49") {
		t.Errorf("in inches: %s", got)
	}
	was := sentences["seam.closed"]
	defer func() { sentences["seam.closed"] = was }()
	sentences["seam.closed"] = "%[3]s: %[2]s, %[1]d"
	if got := s.in(scene.Units("mm")); got != "in every frame: 12.5 mm, 62" {
		t.Error(got)
	}
	if got := say("a name").in(""); got != "a name" {
		t.Error(got)
	}
}
