package app_test

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dorbin/internal/app"
)

func TestZZ(t *testing.T) {
	a := newApp(t)
	var before, after int64
	for _, module := range corpusModules {
		folder := strings.TrimSpace(run(t, "go", "list", "-m", "-f", "{{.Dir}}", module))
		for _, path := range corpusFiles(t, folder) {
			if _, listed := cannotBeExported[filepath.Base(path)]; listed {
				continue
			}
			file, _ := os.Open(path)
			p, err := a.CreatePacket(t.Context(), "Corpus")
			require.NoError(t, err)
			outcome, err := a.AddFile(t.Context(), p.ID, filepath.Base(path), app.Wish{}, file)
			file.Close()
			if err != nil || outcome.Result != "added" {
				continue
			}
			pk := get(t, a, p.ID)
			n := 0
			for _, part := range pk.Parts {
				n += len(part.Pages)
			}
			if n > 60 {
				a.DeletePacket(t.Context(), p.ID)
				continue
			}
			for i := 0; i < 100 && !get(t, a, p.ID).Sources[0].Weighed; i++ {
				time.Sleep(20 * time.Millisecond)
			}
			started, err := a.StartExport(t.Context(), p.ID, app.ExportOrder{Size: app.Lighter})
			require.NoError(t, err)
			var e app.Export
			for i := 0; i < 6000; i++ {
				e, _ = a.Export(t.Context(), started.ID)
				if e.State != "waiting" && e.State != "running" {
					break
				}
				time.Sleep(20 * time.Millisecond)
			}
			if e.State != "done" {
				fmt.Println("ZZ FAILED", path, e.State, e.Problem)
				continue
			}
			if len(e.Receipt.Differences) > 0 {
				fmt.Println("ZZ DIFF", path, e.Receipt.Differences)
			}
			if len(e.Receipt.Became) == 0 {
				a.DeletePacket(t.Context(), p.ID)
				continue
			}
			out, _, _ := a.ExportFile(t.Context(), started.ID)
			info, _ := os.Stat(path)
			before += info.Size()
			after += e.Receipt.Bytes
			worst := 0.0
			for _, b := range e.Receipt.Became[:min(3, len(e.Receipt.Became))] {
				func() {
					defer func() {
						if r := recover(); r != nil {
							fmt.Println("ZZ PANIC", path, r)
						}
					}()
					if exec.Command("pdfinfo", path).Run() != nil {
						return
					}
					worst = max(worst, difference(popplerAt(t, path, b.Number, 50), popplerAt(t, out, b.Number, 50)))
				}()
			}
			note := ""
			if text(path) != text(out) {
				note += " TEXT"
			}
			if check, err := exec.Command("qpdf", "--check", out).CombinedOutput(); err != nil {
				note += " QPDF " + string(check)
			}
			ways := map[string]int{}
			for _, b := range e.Receipt.Became {
				ways[string(b.Way)]++
			}
			fmt.Printf("ZZ %s %d -> %d became %v worst %.1f%s\n", filepath.Base(path), info.Size(), e.Receipt.Bytes, ways, worst, note)
			a.DeletePacket(t.Context(), p.ID)
		}
	}
	fmt.Println("ZZ TOTAL", before, after)
}
