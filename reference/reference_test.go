package reference_test

import (
	"bytes"
	"encoding/csv"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hevrin/reference"
)

// python is Debian's own, which finds Debian's libraries.
const python = "/usr/bin/python3"

// libraries lists what each table needs.
var libraries = map[string]string{"sea-water": "gsw", "fresh-water": "iapws", "saturation": "iapws",
	"friction": "fluids", "units": "pint", "effectiveness": "scipy", "growth-points": "numpy", "growth-fits": "scipy",
	"test-run-samples": "numpy", "test-run-results": "scipy"}

// Where the reference libraries are present, the committed tables are those that they give.
func TestTheTablesAreThoseOfTheLibraries(t *testing.T) {
	for name, library := range libraries {
		t.Run(name, func(t *testing.T) {
			if err := exec.Command(python, "-c", "import "+library).Run(); err != nil {
				t.Skipf("%s is not installed: the committed table stands", library)
			}
			folder := t.TempDir()
			out, err := exec.Command(python, "make.py", folder, name).CombinedOutput()
			require.NoError(t, err, string(out))
			made, err := os.ReadFile(filepath.Join(folder, name+".csv"))
			require.NoError(t, err)
			kept, err := fs.ReadFile(reference.Tables(), name+".csv")
			require.NoError(t, err)
			requireSameTable(t, kept, made)
		})
	}
}

func requireSameTable(t *testing.T, kept, made []byte) {
	t.Helper()
	a, err := csv.NewReader(bytes.NewReader(kept)).ReadAll()
	require.NoError(t, err)
	b, err := csv.NewReader(bytes.NewReader(made)).ReadAll()
	require.NoError(t, err)
	require.Len(t, b, len(a))
	for i := range a {
		require.Len(t, b[i], len(a[i]))
		for k := range a[i] {
			x, errX := strconv.ParseFloat(a[i][k], 64)
			y, errY := strconv.ParseFloat(b[i][k], 64)
			if errX != nil || errY != nil {
				require.Equal(t, a[i][k], b[i][k])
				continue
			}
			require.InDelta(t, x, y, 1e-6*max(1, x), "row %d", i)
		}
	}
}

func TestEveryTableIsCheckedAfresh(t *testing.T) {
	names, err := fs.Glob(reference.Tables(), "*.csv")
	require.NoError(t, err)
	for _, n := range names {
		assert.Contains(t, libraries, strings.TrimSuffix(n, ".csv"))
	}
	assert.Len(t, libraries, len(names))
}
