package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"hevrin/app"
	"hevrin/app/job"
	"hevrin/app/report"
	"hevrin/core/catalogue"
	"hevrin/core/units"
	"hevrin/reports"
	"hevrin/store"
)

// withRecord opens the record of a folder, which a running program may be using too.
func withRecord(ctx context.Context, folder string, how store.Opening, do func(*app.App) error) (err error) {
	trade, err := catalogue.Load()
	if err != nil {
		return err
	}
	kept, err := store.OpenAs(ctx, folder, how)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, kept.Close()) }()
	program := app.New(trade, kept, time.Now)
	defer program.Close()
	return do(program)
}

// kinds are what a job can be exported as, each with the end of its file's name.
var kinds = map[string]struct {
	kind, ending string
	write        func(ctx context.Context, a *app.App, job string, system units.System) ([]byte, error)
}{
	"bundle": {"", ".hevrin.json", func(ctx context.Context, a *app.App, job string, _ units.System) ([]byte, error) {
		b, err := a.Bundle(ctx, job)
		if err != nil {
			return nil, err
		}
		return reports.WriteBundle(b, version, a.Catalogue.Version, a.Now())
	}},
	"report": {"-report", ".pdf", func(ctx context.Context, a *app.App, job string, system units.System) ([]byte, error) {
		r, err := report.Of(ctx, a.Catalogue, a, job, system)
		if err != nil {
			return nil, err
		}
		return reports.PDF(r, a.Now(), version)
	}},
	"readings": {"-readings", ".csv", ofPage(reports.Readings)},
	"parts":    {"-parts", ".csv", ofPage(reports.Parts)},
}

func ofPage(write func(*job.Page) ([]byte, error)) func(context.Context, *app.App, string,
	units.System) ([]byte, error) {
	return func(ctx context.Context, a *app.App, job string, _ units.System) ([]byte, error) {
		page, err := a.Job(ctx, job)
		if err != nil {
			return nil, err
		}
		return write(page)
	}
}

func exportCommand() *cobra.Command {
	var data, out, as, chosen string
	c := &cobra.Command{Use: "export [JOB]",
		Short: "Write a job as one file, a report or a table; without a job, list the jobs", Args: cobra.MaximumNArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			return withRecord(c.Context(), data, store.Existing, func(a *app.App) error {
				if len(args) == 0 {
					return listJobs(c.Context(), a, c.OutOrStdout())
				}
				kind, ok := kinds[as]
				if !ok {
					return fmt.Errorf("--as is bundle, report, readings or parts, not %q", as)
				}
				system := units.System(chosen)
				if !slices.Contains(units.Systems, system) {
					return fmt.Errorf("--units is metric, us or imperial, not %q", system)
				}
				raw, err := kind.write(c.Context(), a, args[0], system)
				if err != nil {
					return err
				}
				if out == "-" {
					_, err := c.OutOrStdout().Write(raw)
					return err
				}
				if out == "" {
					page, err := a.Job(c.Context(), args[0])
					if err != nil {
						return err
					}
					out = reports.FileName(page.Craft.Name, page.Engine.Name, page.Job.OpenedAt, kind.kind, kind.ending)
				}
				if err := writeNew(out, raw); err != nil {
					return err
				}
				fmt.Fprintf(c.OutOrStdout(), "Written: %s (%d bytes)\n", out, len(raw))
				return nil
			})
		}}
	c.Flags().StringVar(&data, "data", dataFolder("hevrin"), "folder that holds the record")
	c.Flags().StringVarP(&out, "out", "o", "",
		"file to write; - for standard output; left out: named after the craft and the day, here")
	c.Flags().StringVar(&as, "as", "bundle", "bundle, report, readings or parts")
	c.Flags().StringVar(&chosen, "units", string(units.Metric), "of the report: metric, us or imperial")
	return c
}

// writeNew writes a file that is not there yet.
func writeNew(name string, raw []byte) error {
	f, err := os.OpenFile(name, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600) //nolint:gosec // the user's own path
	if errors.Is(err, os.ErrExist) {
		return fmt.Errorf("%s is there already: give another name with --out", name)
	}
	if err != nil {
		return err
	}
	_, err = f.Write(raw)
	return errors.Join(err, f.Sync(), f.Close())
}

func listJobs(ctx context.Context, a *app.App, out io.Writer) error {
	yard, err := a.Yard(ctx)
	if err != nil {
		return err
	}
	for _, y := range yard {
		page, err := a.Craft(ctx, y.Craft.ID)
		if err != nil {
			return err
		}
		for _, e := range page.Engines {
			for _, j := range e.Jobs {
				state := "open"
				if j.ClosedAt != nil {
					state = "closed " + j.ClosedAt.Format("2006-01-02")
				}
				fmt.Fprintf(out, "%s  %s  %s, %s  (%s)  %s\n", j.ID, j.OpenedAt.Format("2006-01-02"), y.Craft.Name, e.Engine.Name,
					state, strings.Join(strings.Fields(j.Words), " "))
			}
		}
	}
	return nil
}

func importCommand() *cobra.Command {
	var data string
	var try bool
	c := &cobra.Command{Use: "import FILE...", Short: "Take jobs in that were exported, each all of it or nothing",
		Args: cobra.MinimumNArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			return withRecord(c.Context(), data, store.OrBegin, func(a *app.App) error {
				for _, name := range args {
					if err := takeFile(c.Context(), a, name, try, c.OutOrStdout()); err != nil {
						return fmt.Errorf("%s: %w", name, err)
					}
				}
				return nil
			})
		}}
	c.Flags().StringVar(&data, "data", dataFolder("hevrin"), "folder that holds the record")
	c.Flags().BoolVar(&try, "try", false, "only say what would be taken")
	return c
}

func takeFile(ctx context.Context, a *app.App, name string, try bool, out io.Writer) error {
	facts, err := os.Stat(name)
	if err != nil {
		return err
	}
	if facts.Size() > reports.MostBundleBytes { // not read at all
		return fmt.Errorf("it has %d bytes, and no job's file is over %d", facts.Size(), reports.MostBundleBytes)
	}
	raw, err := os.ReadFile(name) //nolint:gosec // the user's own path
	if err != nil {
		return err
	}
	b, err := reports.ReadBundle(raw)
	if err != nil {
		return err
	}
	t, err := a.ImportBundle(ctx, b, try)
	if err != nil {
		return err
	}
	did := "Taken"
	if try {
		did = "Would take"
	}
	fmt.Fprintf(out, "%s: %s, %s, job of %s: %d new entries of the job, %d of the engine, %d of the craft; %d photos, "+
		"%d recordings\n",
		did, t.Craft.Name, t.Engine.Name, t.Job.OpenedAt.Format("2006-01-02"), t.NewJob, t.NewEngine, t.NewCraft, t.Photos,
		t.Recordings)
	for _, k := range t.Stored {
		fmt.Fprintln(out, "  "+k)
	}
	if !try {
		slog.Info("job taken in", "file", name, "job", b.JobID, "entries", t.NewJob)
	}
	return nil
}

func backupCommand() *cobra.Command {
	var data string
	c := &cobra.Command{Use: "backup FILE", Short: "Copy the whole record to a new file, verified; Hevrin may be running",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) (err error) {
			kept, err := store.OpenAs(c.Context(), data, store.Existing)
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, kept.Close()) }()
			h, err := kept.Backup(c.Context(), args[0])
			if err != nil {
				return err
			}
			fmt.Fprintf(c.OutOrStdout(), "Backed up to %s, verified: %s\n", args[0], held(h))
			return nil
		}}
	c.Flags().StringVar(&data, "data", dataFolder("hevrin"), "folder that holds the record")
	return c
}

func verifyCommand() *cobra.Command {
	var data string
	c := &cobra.Command{Use: "verify [FILE]", Args: cobra.MaximumNArgs(1),
		Short: "Read a backup, or the record itself, whole: its pages, its tables, and every entry's hash",
		Long: "Reads a backup, or without a file the record, which Hevrin may be using: every page, the tables, and the " +
			"chain of hashes that binds each entry to those before it.\nThe head that is told hangs on every entry: kept " +
			"somewhere else it proves later that none was cut off the end.",
		RunE: func(c *cobra.Command, args []string) error {
			if len(args) == 1 {
				h, err := store.Verify(c.Context(), args[0])
				if err == nil {
					fmt.Fprintf(c.OutOrStdout(), "%s is whole: %s\nhead %s\n", args[0], held(h), h.Head)
				}
				return err
			}
			copied, err := os.MkdirTemp("", "hevrin-verify")
			if err != nil {
				return err
			}
			defer func() { _ = os.RemoveAll(copied) }()
			kept, err := store.OpenAs(c.Context(), data, store.Existing)
			if err != nil {
				return err
			}
			err = kept.Check(c.Context(), true)
			var h store.Holds
			if err == nil {
				h, err = kept.Backup(c.Context(), filepath.Join(copied, "copy.db"))
			}
			if err = errors.Join(err, kept.Close()); err == nil {
				fmt.Fprintf(c.OutOrStdout(), "%s is whole: %s\nhead %s\n", data, held(h), h.Head)
			}
			return err
		}}
	c.Flags().StringVar(&data, "data", dataFolder("hevrin"), "folder that holds the record")
	return c
}

func held(h store.Holds) string {
	newest := ""
	if h.Entries > 0 {
		newest = ", the newest of " + h.Newest.Format("2006-01-02 15:04:05") + " UTC"
	}
	return fmt.Sprintf("%d craft, %d engines, %d jobs, %d photos, %d entries%s", h.Craft, h.Engines, h.Jobs, h.Photos,
		h.Entries, newest)
}

func restoreCommand() *cobra.Command {
	var data string
	var try, replace bool
	c := &cobra.Command{Use: "restore FILE",
		Short: "Verify a backup and put it in the place of the record; Hevrin must be stopped", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if try {
				h, err := store.Verify(c.Context(), args[0])
				if err == nil {
					fmt.Fprintf(c.OutOrStdout(), "%s is whole: %s\n", args[0], held(h))
				}
				return err
			}
			h, kept, err := store.Restore(c.Context(), args[0], data, replace)
			if err != nil {
				return err
			}
			fmt.Fprintf(c.OutOrStdout(), "Restored to %s, verified: %s\n", data, held(h))
			if kept != "" {
				fmt.Fprintln(c.OutOrStdout(), "The record that was there is kept in", kept)
			}
			return nil
		}}
	c.Flags().StringVar(&data, "data", dataFolder("hevrin"), "folder to restore into")
	c.Flags().BoolVar(&try, "try", false, "only verify the backup")
	c.Flags().BoolVar(&replace, "replace", false, "replace a record that is there; it is kept beside")
	return c
}
