package scene

import (
	"context"
	"errors"
	"strings"
	"testing"
)

// Documents that hold endless values are refused by their number, where they stand; addresses
// name fields with odd names too.
func TestDecodeLimits(t *testing.T) {
	long := `{"bead":1,"zz":[` + strings.Repeat("1,", maxValues) + `1]}`
	if _, err := Decode([]byte(long)); err == nil || !strings.Contains(err.Error(), "more than 1000000 values") {
		t.Errorf("%d values: %v", maxValues+3, err)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := DecodeContext(gone, []byte(long)); !errors.Is(err, context.Canceled) {
		t.Errorf("reading for nobody: %v", err)
	}
	_, err := Decode([]byte(`{"bead":1,"":{"a":[1,{"b":2,"b":3}]},"paths":[{"id":"w","":1}]}`))
	var faults Faults
	if !errors.As(err, &faults) {
		t.Fatal(err)
	}
	found := map[string]bool{}
	for _, f := range faults {
		found[f.Address] = true
	}
	for _, at := range []string{"", "a[1].b", "paths[0].", "paths[0].name"} {
		if !found[at] {
			t.Errorf("no fault at %q: %v", at, faults)
		}
	}
}
