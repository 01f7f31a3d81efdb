package cli

import (
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"time"

	"archetyp/core/hint"
	"archetyp/core/remark"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) remarkCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "remark",
		Short: "Write remarks on screens and elements, and reply to them",
		Long: long(`Work with remarks on screens, elements and connections. Each is a Markdown file in ` + remark.Dir + `/ with
its replies, follows its element, and travels with git.`),
		Example: example("archetyp remark add booking '#pay' \"@aino the gap is 12 px in code\"", "archetyp remark list --for aino"),
	}
	c.AddCommand(a.remarkAddCmd(), a.remarkListCmd(), a.remarkShowCmd(), a.remarkReplyCmd(), a.remarkStateCmd("close", "Close a remark: it is settled", remark.Closes),
		a.remarkStateCmd("reopen", "Open a closed remark again", remark.Reopens))
	return c
}

// words are the words of an argument; "-" is standard input.
func (a *app) words(arg string) (string, error) {
	if arg != "-" {
		return arg, nil
	}
	data, err := io.ReadAll(io.LimitReader(a.in, 1<<20))
	return string(data), err
}

func (a *app) remarkAddCmd() *cobra.Command {
	var n job.NewRemark
	point := ""
	c := &cobra.Command{
		Use:   "add SOURCE [SELECTOR] WORDS",
		Short: "Write a remark about a screen, an element, a point or a connection",
		Long: long(`Write a remark about an element, or about the screen where no selector is given. @NAME in the words says whom it is
for; "-" reads the words from standard input. --point pins it to a point, in px from the corner of the element, --leads-to
to the connection from the element to another screen.`),
		Example: example("archetyp remark add booking '#pay' \"@aino the gap is 12 px in code\" --kind question",
			"archetyp remark add timetable \"Where do weekend sailings go?\"", "archetyp remark add booking '#pay' \"And when it fails?\" --leads-to \"Boarding pass\""),
		Args: between(2, 3, "a SOURCE, a selector and words"),
		RunE: func(_ *cobra.Command, args []string) (err error) {
			a.writes(true)
			if n.Text, err = a.words(args[len(args)-1]); err != nil {
				return err
			}
			if point != "" {
				if n.Point, err = parsePoint(point); err != nil {
					return err
				}
			}
			ws, t, err := a.target(args[0], args[1:len(args)-1])
			if err != nil {
				return err
			}
			r, err := job.AddRemark(a.ctx, ws, t, n)
			if err != nil {
				return err
			}
			return a.printRemark(ws, r, false)
		},
	}
	c.Flags().StringVar(&n.Kind, "kind", "", "its `KIND`: note, question, change, praise, or one of the team's own")
	c.Flags().StringVar(&n.By, "by", "", "the author (default: git's user.name)")
	c.Flags().StringVar(&point, "point", "", "pin it to a point, `X,Y` in px from the corner of the element")
	c.Flags().StringVar(&n.LeadsTo, "leads-to", "", "pin it to the connection that leads to `SCREEN`")
	c.Flags().StringSliceVar(&n.Tags, "tag", nil, "give it `TAGS`")
	return c
}

func parsePoint(s string) ([]float64, error) {
	x, y, ok := strings.Cut(s, ",")
	var out []float64
	for _, p := range []string{x, y} {
		v, err := strconv.ParseFloat(strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(p), "px")), 64)
		if err != nil || !ok || v != v || math.Abs(v) > 1e6 {
			return nil, hint.New(fmt.Sprintf("%q is no point", s), "Write two lengths in px, for example --point 12,8")
		}
		out = append(out, v)
	}
	return out, nil
}

func (a *app) remarkListCmd() *cobra.Command {
	f := job.RemarkFilter{State: "open"}
	check := false
	c := &cobra.Command{
		Use:   "list",
		Short: "List the open remarks, those with the latest words first",
		Long: long(`List remarks: the open ones, or with --state all. --for and --by name people by their name or handle. With --check,
exit with 1 where any is listed.`),
		Example: example("archetyp remark list", "archetyp remark list --for aino --kind question", "archetyp remark list --screen Booking --state all"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if f.State != "open" && f.State != "closed" && f.State != "all" {
				return hint.New(fmt.Sprintf("--state %q is not known", f.State), "Choose open, closed or all.")
			}
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			list, unread, err := job.Remarks(a.ctx, ws, f)
			if err != nil {
				return err
			}
			a.warnUnread(unread)
			if a.json {
				out := []remarkJSON{}
				for i := range list {
					out = append(out, toRemarkJSON(ws, &list[i]))
				}
				err = a.printJSON(map[string]any{"remarks": out})
			} else {
				a.printThreads(list)
			}
			if err == nil && check && len(list) > 0 {
				return foundError{}
			}
			return err
		},
	}
	c.Flags().StringVar(&f.For, "for", "", "only those that name `PERSON`")
	c.Flags().StringVar(&f.By, "by", "", "only those in which `PERSON` wrote")
	c.Flags().StringSliceVar(&f.Kinds, "kind", nil, "only of these `KINDS`")
	c.Flags().StringSliceVar(&f.Screens, "screen", nil, "only on these `SCREENS`")
	c.Flags().StringSliceVar(&f.Tags, "tag", nil, "only with one of these `TAGS`")
	c.Flags().StringVar(&f.Source, "source", "", "only in this `SOURCE`")
	c.Flags().StringVar(&f.Ticket, "ticket", "", "only those that name a `TICKET`")
	c.Flags().StringVar(&f.State, "state", f.State, "open, closed or all")
	c.Flags().BoolVar(&f.Lost, "lost", false, "only those whose element can no longer be found")
	c.Flags().BoolVar(&check, "check", false, "exit with 1 where any is listed")
	return c
}

func (a *app) printThreads(list []job.Remark) {
	t := a.term
	if len(list) == 0 {
		a.print("there is no such remark\n")
		return
	}
	var rows [][]string
	for i := range list {
		if i == mostFound && !a.verbose && len(list) > mostFound+1 {
			rows = append(rows, []string{t.dim(fmt.Sprintf("… %d more; --verbose shows them", len(list)-i))})
			break
		}
		r := &list[i]
		where := r.Where()
		if r.Element == nil {
			where = t.bad("lost ") + where
		}
		replies := ""
		if n := len(r.Entries) - 1; n > 0 {
			replies = plural(n, "reply", "replies")
		}
		kind := r.Kind
		if r.Closed() {
			kind += ", closed"
		}
		rows = append(rows, []string{t.bold(r.Short()), t.accent(kind), clip(where, 40), clip(firstLine(r.Entries[0].Text), 56), t.dim(r.Entries[0].By), t.dim(replies)})
	}
	a.print("%s", t.table([]string{"remark", "kind", "about", "words", "by", ""}, rows))
}

func (a *app) remarkShowCmd() *cobra.Command {
	return &cobra.Command{
		Use:     "show REMARK",
		Short:   "Show a remark with its replies",
		Long:    long(`Show a remark with all replies, and where its element is now.`),
		Example: example("archetyp remark show 3f9a1c"),
		Args:    exactly("a remark"),
		RunE: func(_ *cobra.Command, args []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			r, err := job.RemarkNamed(ws, args[0])
			if err != nil {
				return err
			}
			return a.printRemark(ws, r, true)
		},
	}
}

// printRemark prints a remark; all of it, or its name and what was written last.
func (a *app) printRemark(ws *workspace.Workspace, r *job.Remark, all bool) error {
	if a.json {
		return a.printJSON(toRemarkJSON(ws, r))
	}
	if a.quiet {
		return nil
	}
	t := a.term
	state := t.good("open")
	if r.Closed() {
		state = t.dim("closed")
	}
	a.print("%s  %s  %s  %s\n", t.bold(r.Short()), t.accent(r.Kind), r.Where(), state)
	if r.Element == nil {
		a.print("%s %s\n", t.bad("lost"), r.Why)
	}
	if !all {
		a.say("%s/%s.md\n", remark.Dir, r.ID)
		return nil
	}
	if r.Element != nil && !r.At.Whole() {
		a.print("%s\n", t.dim(fmt.Sprintf("%s %s, found by %s", r.Source, r.Element.Selector(), r.Why)))
	}
	for _, ticket := range r.Tickets {
		a.print("%s\n", t.dim(strings.TrimSpace(ticket+"  "+ws.Config.TicketURL(ticket))))
	}
	for _, e := range r.Entries {
		does := ""
		if e.Does != "" {
			does = ", " + e.Does + " it"
		}
		a.print("\n%s %s\n", t.bold(e.By), t.dim(e.On.Format("2006-01-02 15:04")+" UTC"+does))
		if e.Text != "" {
			a.print("  %s\n", strings.ReplaceAll(e.Text, "\n", "\n  "))
		}
	}
	return nil
}

func (a *app) remarkReplyCmd() *cobra.Command {
	var r job.Reply
	c := &cobra.Command{
		Use:     "reply REMARK WORDS",
		Short:   "Reply to a remark",
		Long:    long(`Reply to a remark; "-" reads the words from standard input.`),
		Example: example("archetyp remark reply 3f9a1c \"Mended in the last edition\""),
		Args:    exactly("a remark", "words"),
		RunE: func(_ *cobra.Command, args []string) (err error) {
			if r.Text, err = a.words(args[1]); err != nil {
				return err
			}
			return a.replyTo(args[0], r)
		},
	}
	c.Flags().StringVar(&r.By, "by", "", "the author (default: git's user.name)")
	return c
}

func (a *app) remarkStateCmd(name, short, does string) *cobra.Command {
	r := job.Reply{Does: does}
	c := &cobra.Command{
		Use:     name + " REMARK",
		Short:   short,
		Long:    long(short + `. -m says why.`),
		Example: example("archetyp remark " + name + " 3f9a1c -m \"8 px now\""),
		Args:    exactly("a remark"),
		RunE:    func(_ *cobra.Command, args []string) error { return a.replyTo(args[0], r) },
	}
	c.Flags().StringVarP(&r.Text, "message", "m", "", "why, in `WORDS`")
	c.Flags().StringVar(&r.By, "by", "", "the author (default: git's user.name)")
	return c
}

func (a *app) replyTo(name string, r job.Reply) error {
	a.writes(true)
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	done, err := job.ReplyTo(ws, name, r)
	if err != nil {
		return err
	}
	return a.printRemark(ws, done, false)
}

type remarkJSON struct {
	*remark.Thread
	Short    string       `json:"short"`
	File     string       `json:"file"`
	State    string       `json:"state"`
	By       string       `json:"by"`
	On       time.Time    `json:"on"`
	Source   string       `json:"source"`
	Screen   string       `json:"screen"`
	Element  string       `json:"element,omitempty"`
	Selector string       `json:"selector,omitempty"`
	Lost     bool         `json:"lost"`
	Found    string       `json:"found"`
	Spot     [2]float64   `json:"spot"` // px on the screen
	Tickets  []ticketJSON `json:"tickets"`
}

func toRemarkJSON(ws *workspace.Workspace, r *job.Remark) remarkJSON {
	first := r.Entries[0]
	out := remarkJSON{Thread: r.Thread, Short: r.Short(), File: remark.Dir + "/" + r.ID + ".md", State: r.State(), By: first.By, On: first.On,
		Source: r.Source, Screen: r.At.Screen, Lost: r.Element == nil, Found: string(r.Why), Spot: [2]float64{r.Spot.X, r.Spot.Y},
		Tickets: ticketsJSON(ws, r.Tickets)}
	if out.For == nil {
		out.For = []string{}
	}
	if out.Tags == nil {
		out.Tags = []string{}
	}
	if out.Source == "" {
		out.Source = r.At.Source
	}
	if e := r.Element; e != nil {
		out.Screen = e.Screen.Name
		if e != e.Screen.Root {
			out.Element, out.Selector = e.Title(), e.Selector()
		}
	}
	return out
}
