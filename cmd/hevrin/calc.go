package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"hevrin/app/job"
	"hevrin/core/calculator"
	"hevrin/core/catalogue"
	"hevrin/core/units"
	"hevrin/core/validation"
	"hevrin/handlers"
)

// mostInput bounds what calc reads, as the server bounds a request.
const mostInput = 16 << 20

func calcCommand() *cobra.Command {
	var system string
	var text bool
	c := &cobra.Command{Use: "calc [name] < in.json", Short: "Work a sum out; without a name, list the sums",
		Args: cobra.MaximumNArgs(1),
		Long: "Reads the fields of a sum as a JSON object from the standard input and writes {result, working, warnings} " +
			"as JSON.\n" +
			"Fields, units and ranges: GET /api/v1/calc, or hevrin calc NAME --example for a question to change.",
		ValidArgsFunction: func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
			return calculatorNames(), cobra.ShellCompDirectiveNoFileComp
		}}
	example := c.Flags().Bool("example", false, "write an example of the sum's input")
	c.Flags().StringVar(&system, "units", string(units.Metric), "whose gallon an unnamed one is: metric, us or imperial")
	c.Flags().BoolVar(&text, "text", false, "write the answer in words")
	c.RunE = func(c *cobra.Command, args []string) error {
		if !slices.Contains(units.Systems, units.System(system)) {
			return fmt.Errorf("--units %s: choose metric, us or imperial", system)
		}
		if len(args) == 0 {
			for _, s := range calculator.All() {
				fmt.Fprintf(c.OutOrStdout(), "%-20s %s\n", s.Name, s.Asks)
			}
			return nil
		}
		s, ok := calculator.Find(args[0])
		if !ok {
			return fmt.Errorf("there is no sum %q; there are %s", args[0], strings.Join(calculatorNames(), ", "))
		}
		if *example {
			fmt.Fprintln(c.OutOrStdout(), s.Example)
			return nil
		}
		return calc(c.InOrStdin(), c.OutOrStdout(), s, units.System(system), text)
	}
	return c
}

func calculatorNames() []string {
	list := calculator.All()
	names := make([]string, len(list))
	for i, s := range list {
		names[i] = s.Name
	}
	return names
}

func calc(in io.Reader, out io.Writer, s *calculator.Calculator, system units.System, text bool) error {
	body, err := io.ReadAll(io.LimitReader(in, mostInput))
	if err != nil {
		return err
	}
	var given map[string]any
	if err := json.Unmarshal(body, &given); err != nil {
		return fmt.Errorf("the input is not a JSON object (hevrin calc %s --example shows one): %w", s.Name, err)
	}
	_, a, err := job.Work(s.Name, given, system)
	if err != nil {
		return readableError(err)
	}
	trade, err := catalogue.Load()
	if err != nil {
		return err
	}
	answer, err := handlers.SumAnswer(trade, a)
	if err != nil {
		return err
	}
	if text {
		inWords(out, s, a)
		for _, k := range answer.Cautions {
			fmt.Fprintf(out, "Caution, %s: %s\n", strings.ToLower(k.Label), k.Text)
		}
		return nil
	}
	encoder := json.NewEncoder(out)
	encoder.SetIndent("", "  ")
	return encoder.Encode(answer)
}

func inWords(out io.Writer, s *calculator.Calculator, a calculator.Answer) {
	fmt.Fprintln(out, s.Asks)
	for _, f := range s.Figures(a) {
		switch u, err := units.Find(f.Unit); {
		case f.Value == nil:
			fmt.Fprintf(out, "  %s: %s\n", f.Label, f.Words)
		case err == nil && f.Error > 0:
			fmt.Fprintf(out, "  %s: %s ± %s\n", f.Label, u.Show(*f.Value), u.Show(f.Error))
		case err == nil:
			fmt.Fprintf(out, "  %s: %s\n", f.Label, u.Show(*f.Value))
		}
	}
	for _, step := range a.Working {
		fmt.Fprintf(out, "- %s\n", step.Text())
	}
	for _, w := range a.Warnings {
		fmt.Fprintf(out, "! %s\n", w)
	}
}

// readableError puts every field that does not fit on a line of its own.
func readableError(err error) error {
	var wrong validation.Errors
	if !errors.As(err, &wrong) {
		return err
	}
	lines := make([]string, len(wrong))
	for i, w := range wrong {
		lines[i] = fmt.Sprintf("%s: %s (given %s; allowed: %s)", w.Field, w.Say, w.Given, w.Allowed)
	}
	return errors.New(strings.Join(lines, "\n"))
}
