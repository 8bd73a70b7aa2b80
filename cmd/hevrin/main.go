// Command hevrin serves the program: see `hevrin help`.
package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"syscall"
	"time"

	"github.com/adrg/xdg"
	"github.com/spf13/cobra"

	"hevrin/app"
	"hevrin/app/people"
	"hevrin/app/record"
	"hevrin/core/catalogue"
	"hevrin/demo"
	"hevrin/server"
	"hevrin/simulator"
	"hevrin/store"
)

// version is set when the program is built.
var version = "dev"

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := root().ExecuteContext(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "hevrin:", err)
		os.Exit(1)
	}
}

func root() *cobra.Command {
	cmd := &cobra.Command{Use: "hevrin", Short: "Finds why a marine engine runs hot, or cold", SilenceUsage: true,
		SilenceErrors: true}
	var debug bool
	cmd.PersistentFlags().BoolVar(&debug, "debug", false, "log every request")
	cmd.PersistentPreRun = func(*cobra.Command, []string) {
		level := slog.LevelInfo
		if debug {
			level = slog.LevelDebug
		}
		slog.SetDefault(slog.New(slog.NewJSONHandler(os.Stderr, &slog.HandlerOptions{Level: level})))
	}
	cmd.AddCommand(serveCommand(), demoCommand(), simulatorCommand(), calcCommand(), exportCommand(), importCommand(),
		backupCommand(), restoreCommand(), verifyCommand(), setupCommand(), passphraseCommand(),
		&cobra.Command{Use: "version", Short: "Say which version this is",
			Args: cobra.NoArgs,
			Run:  func(c *cobra.Command, _ []string) { fmt.Fprintln(c.OutOrStdout(), "hevrin", version) }})
	return cmd
}

// mostPerSecond is many times what a device asks for at work.
const mostPerSecond = 200

// place is where to listen and where the data lie.
type place struct {
	address, data, backups, mirror string
	listen, http                   string // for the yard's network
	push                           []string
	begin                          bool
}

func (p *place) flags(c *cobra.Command, folder string) {
	c.Flags().StringVar(&p.address, "addr", "127.0.0.1:8420", "address to listen on; only this machine can reach it")
	c.Flags().StringVar(&p.data, "data", folder, "folder that holds the record")
	c.Flags().StringVar(&p.backups, "backups", "", "folder for a backup a day, on another disk if you can (default: "+
		store.BackupFolder+" in the data folder)")
	c.Flags().StringVar(&p.mirror, "copy-to", "", "folder on another disk for a second copy, kept a few seconds "+
		"behind the "+
		"record")
	c.Flags().BoolVar(&p.begin, "new", false, "begin a new record in a folder that holds none, though it is not empty")
}

// backupFolder is where backups are made by themselves.
func (p *place) backupFolder() string {
	if p.backups != "" {
		return p.backups
	}
	return filepath.Join(p.data, store.BackupFolder)
}

func serveCommand() *cobra.Command {
	var p place
	c := &cobra.Command{Use: "serve", Short: "Serve Hevrin on this machine, or with --listen to the yard's network",
		Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error { return run(c, p, nil) }}
	p.flags(c, dataFolder("hevrin"))
	c.Flags().StringVar(&p.listen, "listen", "", "address on which the yard's phones are let in, as :8443, once "+
		"hevrin setup "+
		"was said; instead of --addr")
	c.Flags().StringVar(&p.http, "http", "", "with --listen: address that leads from plain HTTP to the secure one "+
		"and hands "+
		"out the certificate, as :80")
	c.Flags().StringArrayVar(&p.push, "push-service", nil, "with --listen: address and port of a push service of "+
		"your own, to which reminders may go though it is not on the internet; may be given again")
	return c
}

func demoCommand() *cobra.Command {
	var p place
	var running bool
	var speed float64
	c := &cobra.Command{Use: "demo", Short: "Serve Hevrin with an invented yard, seeded when the folder is empty",
		Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if !running {
				return run(c, p, demo.Seed)
			}
			ctx, stop := context.WithCancel(c.Context())
			stopped, err := live(ctx, demo.Gateway, demo.Live(speed))
			if err == nil {
				err = run(c, p, demo.Seed)
				defer func() { <-stopped }()
			}
			stop()
			return err
		}}
	p.flags(c, dataFolder("hevrin-demo"))
	c.Flags().BoolVar(&running, "live", false, "start the simulated gateway with it: the mussel barge's engine, running")
	c.Flags().Float64Var(&speed, "speed", 1, "with --live: the gateway's seconds in a real one")
	return c
}

// dataFolder is the user's own folder for data; see the XDG base directory specification.
func dataFolder(name string) string { return filepath.Join(xdg.DataHome, name) }

func run(c *cobra.Command, p place, seed func(context.Context, *catalogue.Catalogue, *store.Store) error) error {
	ctx := c.Context()
	debug.SetGCPercent(server.CollectAt)
	debug.SetMemoryLimit(server.MemoryLimit)
	if err := server.CheckLoopback(p.address); err != nil && p.listen == "" {
		return err
	}
	trade, err := catalogue.Load()
	if err != nil {
		return err
	}
	how := store.OrBegin
	if p.begin {
		how = store.New
	}
	letGo, err := store.Serving(p.data)
	if err != nil {
		return err
	}
	defer func() { _ = letGo() }()
	aside, backErr := store.RestoreAsked(ctx, p.data)
	say := ""
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case backErr != nil:
		say = backErr.Error()
		slog.Error("no going back", "error", backErr)
	case aside != "":
		slog.Info("gone back to a backup", "the record of before is kept in", aside)
	}
	kept, err := store.OpenAs(ctx, p.data, how)
	if err != nil {
		return err
	}
	defer func() {
		if err := kept.Close(); err != nil {
			slog.Error("could not close the database", "error", err)
		}
	}()
	if seed != nil {
		if err := seed(ctx, trade, kept); err != nil {
			return fmt.Errorf("cannot seed the demo: %w", err)
		}
	}
	program := app.New(trade, kept, time.Now)
	defer program.Close() // before the database
	var trouble *record.Trouble
	if err := program.Resume(ctx); err != nil && !errors.As(err, &trouble) {
		return err
	}
	team := people.New(program.Log, kept)
	defer team.Close()
	if err := store.Restored(p.data, func(say string) error { return team.WentBack(ctx, say) }); err != nil {
		slog.Error("going back to a backup could not be put on record", "error", err)
	}
	var yard *server.Yard
	if p.listen != "" {
		if yard, err = yardFor(ctx, team, kept, p); err != nil {
			return err
		}
	}
	keeper := kept.KeepBackups(p.backupFolder(), time.Now)
	defer keeper.Close()
	var mirror *store.Mirror
	if p.mirror != "" {
		mirror = kept.KeepMirror(p.mirror)
		defer mirror.Close()
	}
	supplier, err := simulator.NewSupplier() // stands in for a real one's service
	if err != nil {
		return err
	}
	config := server.Config{App: program, Supplier: supplier, Version: version, Tries: kept,
		Place: store.Place{Store: kept, Keeper: keeper, Mirror: mirror, Say: say}, MostPerSecond: mostPerSecond}
	if p.listen != "" {
		config.Yard = yard
		remind, err := reminding(program, team, yard, p)
		if err != nil {
			return err
		}
		remind.Start(ctx)
		defer remind.Stop()
		handler, err := server.New(config)
		if err != nil {
			return err
		}
		return serveYard(ctx, c, p, config.Yard, handler)
	}
	config.SetUp = setUpFrom(team, p.data)
	handler, err := server.New(config)
	if err != nil {
		return err
	}
	err = server.Serve(ctx, p.address, handler, func(a net.Addr) {
		slog.Info("serving", "address", "http://"+a.String(), "data", p.data, "version", version)
		fmt.Fprintf(c.OutOrStdout(), "Hevrin is at http://%s  (Ctrl-C stops it)\n", a)
	})
	slog.Info("stopped")
	return err
}
