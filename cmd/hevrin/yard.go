package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"hevrin/app"
	"hevrin/app/people"
	"hevrin/app/record"
	"hevrin/app/reminders"
	"hevrin/core/catalogue"
	"hevrin/core/eventlog"
	"hevrin/network"
	"hevrin/push"
	"hevrin/server"
	"hevrin/store"
)

// peopleIn opens the people of a data folder, for a command.
func peopleIn(ctx context.Context, folder string, how store.Opening) (*people.People, func() error, error) {
	trade, err := catalogue.Load()
	if err != nil {
		return nil, nil, err
	}
	kept, err := store.OpenAs(ctx, folder, how)
	if err != nil {
		return nil, nil, err
	}
	return people.New(record.NewLog(trade, kept, time.Now), kept), kept.Close, nil
}

// prepare sets the network of a data folder up, and its authority where it is to have one. One that is there already is
// kept: phones trust it, and take no other without being asked. anew makes another all the same.
func prepare(folder string, s network.Settings, anew bool) error {
	if err := s.Check(); err != nil {
		return err
	}
	if s.TLS == network.OwnAuthority {
		there, err := network.LoadAuthority(folder)
		switch {
		case anew || err != nil && errors.Is(err, fs.ErrNotExist):
			if _, err := network.MakeAuthority(folder, s.Hosts, time.Now()); err != nil {
				return err
			}
		case err != nil:
			return fmt.Errorf("%w; or make another with hevrin setup --new-authority, which every phone must be given", err)
		case !there.Covers(s.Hosts):
			return &eventlog.Conflict{Say: "the yard has a certificate already, which its phones trust, and it cannot speak " +
				"for " + strings.Join(s.Hosts, ", ") + ": keep the names of before, or make another with hevrin setup " +
				"--new-authority, which every phone must be given then"}
		}
	}
	return s.Save(folder)
}

func setupCommand() *cobra.Command {
	var data, manager string
	var anew bool
	s := network.Settings{TLS: network.OwnAuthority}
	c := &cobra.Command{Use: "setup", Args: cobra.NoArgs,
		Short: "Let the yard's phones in: a manager, the names of this machine, and a certificate",
		Long: "Makes the first manager, who then invites others, and says how phones reach this machine. With --tls own " +
			"it\n" +
			"makes a small authority of the yard's own, whose certificate phones are given once; with --tls files it uses\n" +
			"certificate files; with --tls proxy a proxy before it does that. The passphrase is asked for, or read from the\n" +
			"first line of the standard input.",
		RunE: func(c *cobra.Command, _ []string) error {
			if len(s.Hosts) == 0 {
				return fmt.Errorf("say under which name or address phones reach this machine, as --host %s", strings.Join(mayBe(),
					" --host "))
			}
			if err := s.Check(); err != nil {
				return err
			}
			p, closed, err := peopleIn(c.Context(), data, store.OrBegin)
			if err != nil {
				return err
			}
			defer func() { _ = closed() }()
			ready, err := p.Ready(c.Context())
			if err != nil {
				return err
			}
			if !ready {
				if strings.TrimSpace(manager) == "" {
					return errors.New(`say who leads the yard, as --manager "Name"`)
				}
				phrase, err := askPassphrase(c)
				if err != nil {
					return err
				}
				if _, err := p.Begin(c.Context(), manager, phrase); err != nil {
					return err
				}
			}
			if err := prepare(data, s, anew); err != nil {
				return err
			}
			fmt.Fprintf(c.OutOrStdout(), "Set up. Start it with: %s\n", listenCommand(data))
			if s.TLS == network.OwnAuthority {
				a, err := network.LoadAuthority(data)
				if err != nil {
					return err
				}
				fmt.Fprintf(c.OutOrStdout(), "Phones are given its certificate first. Its SHA-256 is\n%s\n", a.Fingerprint())
			}
			return nil
		}}
	c.Flags().StringVar(&data, "data", dataFolder("hevrin"), "folder that holds the record")
	c.Flags().StringVar(&manager, "manager", "", "name of the manager, as it stands beside what is noted")
	c.Flags().StringArrayVar(&s.Hosts, "host", nil, "name or address under which phones reach this machine; may be "+
		"given again")
	c.Flags().BoolVar(&anew, "new-authority", false, "make another certificate though there is one: every phone must be "+
		"given it")
	c.Flags().StringVar(&s.TLS, "tls", network.OwnAuthority, "own, files or proxy")
	c.Flags().StringVar(&s.Certificate, "certificate", "", "with --tls files: the certificate with its chain, PEM")
	c.Flags().StringVar(&s.Key, "key", "", "with --tls files: its key, PEM")
	c.Flags().StringArrayVar(&s.Proxies, "proxy", nil,
		"with --tls proxy: network from which the proxy speaks, as 127.0.0.1/32")
	return c
}

func passphraseCommand() *cobra.Command {
	var data string
	c := &cobra.Command{Use: "passphrase NAME", Args: cobra.ExactArgs(1),
		Short: "Give somebody of the yard a new passphrase, as a manager who forgot theirs; all their devices are signed out",
		RunE: func(c *cobra.Command, args []string) error {
			p, closed, err := peopleIn(c.Context(), data, store.Existing)
			if err != nil {
				return err
			}
			defer func() { _ = closed() }()
			phrase, err := askPassphrase(c)
			if err != nil {
				return err
			}
			if err := p.Reset(c.Context(), args[0], phrase); err != nil {
				return err
			}
			fmt.Fprintln(c.OutOrStdout(), "Changed.")
			return nil
		}}
	c.Flags().StringVar(&data, "data", dataFolder("hevrin"), "folder that holds the record")
	return c
}

// askPassphrase asks for a passphrase twice at a terminal, unseen, or reads it from the first line of what is piped in.
func askPassphrase(c *cobra.Command) (string, error) {
	file, terminal := c.InOrStdin().(*os.File)
	if !terminal || !term.IsTerminal(int(file.Fd())) { //nolint:gosec // a file's number is small
		line, err := bufio.NewReader(io.LimitReader(c.InOrStdin(), 4096)).ReadString('\n')
		if err != nil && !errors.Is(err, io.EOF) {
			return "", err
		}
		return strings.TrimRight(line, "\r\n"), nil
	}
	var given [2]string
	for i, ask := range []string{"Passphrase: ", "Once more: "} {
		fmt.Fprint(c.OutOrStdout(), ask)
		raw, err := term.ReadPassword(int(file.Fd())) //nolint:gosec // as above
		fmt.Fprintln(c.OutOrStdout())
		if err != nil {
			return "", err
		}
		given[i] = string(raw)
	}
	if given[0] != given[1] {
		return "", errors.New("the two are not the same: say it again")
	}
	return given[0], nil
}

// mayBe lists the names and addresses under which this machine may be reached: its name on the local network, then its
// private addresses.
func mayBe() []string {
	var out []string
	if name, err := os.Hostname(); err == nil && name != "" && name != "localhost" {
		out = append(out, strings.ToLower(strings.SplitN(name, ".", 2)[0])+".local")
	}
	addresses, err := net.InterfaceAddrs()
	if err != nil {
		return out
	}
	for _, a := range addresses {
		if p, err := netip.ParsePrefix(a.String()); err == nil && p.Addr().Is4() && !p.Addr().IsLoopback() &&
			network.IsPrivate(p.Addr()) {
			out = append(out, p.Addr().String())
		}
	}
	return out
}

const usualListen = ":8443"

func listenCommand(data string) string {
	command := "hevrin serve --listen " + usualListen
	if data != dataFolder("hevrin") {
		command += " --data " + data
	}
	return command
}

// setUpFrom lets the yard be set up from a page on this machine.
func setUpFrom(p *people.People, data string) server.SetUp {
	return server.SetUp{
		State: func(ctx context.Context) (bool, []string, string, error) {
			ready, err := p.Ready(ctx)
			s, netErr := network.Load(data)
			if netErr == nil {
				return ready, s.Hosts, listenCommand(data), err
			}
			return false, mayBe(), listenCommand(data), err
		},
		Make: func(ctx context.Context, manager, phrase string, hosts []string) error {
			s := network.Settings{Hosts: hosts, TLS: network.OwnAuthority}
			if err := s.Check(); err != nil { // before anybody is made
				return err
			}
			ready, err := p.Ready(ctx)
			if err != nil {
				return err
			}
			if !ready {
				if _, err := p.Begin(ctx, manager, phrase); err != nil {
					return err
				}
			}
			return prepare(data, s, false)
		},
	}
}

// yardFor is what a server needs to let people in; an error that says what to do where nobody could sign in.
func yardFor(ctx context.Context, p *people.People, kept *store.Store, place place) (*server.Yard, error) {
	ready, err := p.Ready(ctx)
	if err != nil {
		return nil, err
	}
	s, err := network.Load(place.data)
	if errors.Is(err, network.ErrNotSetUp) || err == nil && !ready {
		return nil, fmt.Errorf("nobody could sign in yet, so nobody is let in from other machines.\nSay first: hevrin "+
			"setup --host %s "+
			"--manager \"NAME\"", strings.Join(append(mayBe(), "NAME-OR-ADDRESS")[:1], ""))
	}
	if err != nil {
		return nil, err
	}
	y := &server.Yard{People: p, Sessions: store.NewSessions(kept), Network: s}
	if _, port, err := net.SplitHostPort(place.listen); err == nil && port != "443" && s.TLS != network.Proxy {
		y.Port = ":" + port
	}
	if s.TLS == network.OwnAuthority {
		a, err := network.LoadAuthority(place.data)
		if err != nil {
			return nil, err
		}
		y.Authority, y.Fingerprint = a.Certificate(), a.Fingerprint()
	}
	return y, nil
}

// reminding lets what comes due be pushed to the devices that ask for it.
func reminding(a *app.App, team *people.People, y *server.Yard, p place) (*reminders.Reminders, error) {
	var own []netip.AddrPort
	for _, s := range p.push {
		at, err := netip.ParseAddrPort(s)
		if err != nil {
			return nil, fmt.Errorf("--push-service %s: write it as an address with a port, as 192.168.1.20:8090", s)
		}
		own = append(own, at)
	}
	sender, err := push.New(p.data, "https://"+y.Network.Hosts[0], own)
	if err != nil {
		return nil, err
	}
	team.PushBy(sender)
	return &reminders.Reminders{Schedule: a.Schedule, Stock: a.Stock, People: team}, nil
}

// serveYard listens for the yard's network until the context ends.
func serveYard(ctx context.Context, c *cobra.Command, p place, y *server.Yard, h http.Handler) error {
	secret, err := y.Network.Config(p.data, time.Now)
	if err != nil {
		return err
	}
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	plain := make(chan error, 1)
	if p.http != "" {
		go func() {
			plain <- server.ServeYard(ctx, p.http, nil, y.Network.FromProxy, server.Plain(y.Network, y.Port, y.Authority), nil)
			stop()
		}()
	} else {
		plain <- nil
	}
	err = server.ServeYard(ctx, p.listen, secret, y.Network.FromProxy, h, func(a net.Addr) {
		slog.Info("serving", "address", a.String(), "hosts", y.Network.Hosts, "data", p.data, "version", version)
		fmt.Fprintf(c.OutOrStdout(), "Hevrin is at https://%s%s  (Ctrl-C stops it)\n", y.Network.Hosts[0], y.Port)
	})
	stop()
	return errors.Join(err, <-plain)
}
