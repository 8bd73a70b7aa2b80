package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every exported name has a comment that begins with it.
func TestEveryExportedNameIsDocumented(t *testing.T) {
	files := token.NewFileSet()
	var bare []string
	note := func(at token.Pos, name, doc string) {
		if ast.IsExported(name) && !strings.HasPrefix(doc, name+" ") {
			bare = append(bare, files.Position(at).String()+" "+name)
		}
	}
	require.NoError(t, filepath.WalkDir("..", func(file string, d fs.DirEntry, err error) error {
		if d != nil && d.IsDir() && (d.Name() == "node_modules" || d.Name() == ".git") {
			return filepath.SkipDir
		}
		if err != nil || !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go") ||
			strings.Contains(file, ".gen.") {
			return err
		}
		parsed, err := parser.ParseFile(files, file, nil, parser.ParseComments)
		require.NoError(t, err)
		for _, decl := range parsed.Decls {
			switch d := decl.(type) {
			case *ast.FuncDecl:
				if d.Recv == nil || ast.IsExported(receiver(d)) {
					note(d.Pos(), d.Name.Name, d.Doc.Text())
				}
			case *ast.GenDecl:
				for _, s := range d.Specs {
					if typed, ok := s.(*ast.TypeSpec); ok {
						note(typed.Pos(), typed.Name.Name, d.Doc.Text()+typed.Doc.Text())
					}
				}
			}
		}
		return nil
	}))
	assert.Empty(t, bare)
}

func receiver(d *ast.FuncDecl) string {
	of := d.Recv.List[0].Type
	if star, ok := of.(*ast.StarExpr); ok {
		of = star.X
	}
	if id, ok := of.(*ast.Ident); ok {
		return id.Name
	}
	return ""
}

// No file of hand-written code is longer than 500 lines.
func TestFilesAreShort(t *testing.T) {
	for _, root := range []string{"../api", "../app", "../benchmarks", "../cmd", ".", "../demo", "../live", "../reports",
		"../server",
		"../simulator", "../store", "../web/src", "../web/e2e"} {
		require.NoError(t, filepath.WalkDir(root, func(file string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || strings.Contains(file, ".gen.") || !strings.HasSuffix(file, ".go") &&
				!strings.Contains(file, ".ts") {
				return err
			}
			assert.LessOrEqual(t, lines(t, file), 500, file)
			return nil
		}))
	}
}

func lines(t *testing.T, file string) int {
	t.Helper()
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	return strings.Count(string(raw), "\n")
}
