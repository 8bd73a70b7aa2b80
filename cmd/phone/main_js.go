// Phone is the program that a phone takes along, in WebAssembly, for a worker of the browser. It gives the worker one
// object, hevrin, with take(bytes), which gives what is wrong or nothing, and answer(bytes), which gives the status,
// the type and the body of an answer to a request in JSON; foresee(bytes) works out what follows a request that may
// come and gives nothing. tries() gives what was practised here as JSON, and restore(bytes) takes it in again: it
// outlives the worker where the page keeps it.
package main

import (
	"context"
	"encoding/json"
	"syscall/js"

	"hevrin/app/tries"
	"hevrin/phone"
	"hevrin/training"
)

func main() {
	kept := tries.InMemory()
	program, err := begin(kept)
	if err != nil {
		panic(err) // the catalogue ships inside, proved when it was written
	}
	js.Global().Set("hevrin", map[string]any{
		"forget": js.FuncOf(func(js.Value, []js.Value) any {
			program, err = begin(kept)
			return said(err)
		}),
		"tries": js.FuncOf(func(js.Value, []js.Value) any {
			raw, err := json.Marshal(kept.All())
			if err != nil {
				panic(err) // it is made of words and times
			}
			return bytesFor(raw)
		}),
		"restore": js.FuncOf(func(_ js.Value, given []js.Value) any {
			var list []tries.Try
			if err := json.Unmarshal(bytesOf(given[0]), &list); err != nil {
				return said(err)
			}
			for _, t := range list {
				if err := kept.SaveTry(context.Background(), t); err != nil {
					return said(err)
				}
			}
			return nil
		}),
		"take": js.FuncOf(func(_ js.Value, given []js.Value) any { return said(program.Take(bytesOf(given[0]))) }),
		"foresee": js.FuncOf(func(_ js.Value, given []js.Value) any {
			var r phone.Request
			if json.Unmarshal(bytesOf(given[0]), &r) == nil {
				program.Foresee(r)
			}
			return nil
		}),
		"answer": js.FuncOf(func(_ js.Value, given []js.Value) any {
			var r phone.Request
			if err := json.Unmarshal(bytesOf(given[0]), &r); err != nil {
				return map[string]any{"status": 400, "type": "text/plain", "body": bytesFor([]byte(err.Error()))}
			}
			a := program.Answer(r)
			return map[string]any{"status": a.Status, "type": a.Type, "body": bytesFor(a.Body)}
		}),
	})
	select {} // the worker's calls come from now on
}

// begin makes the program, and what can be practised by it.
func begin(kept tries.Store) (*phone.Program, error) {
	program, err := phone.New()
	if err != nil {
		return nil, err
	}
	practised := training.Answers{Room: training.New(program.Catalogue(), kept, program.Now)}
	program.Also(practised.Routes()...)
	return program, nil
}

func said(err error) any {
	if err == nil {
		return nil
	}
	return err.Error()
}

func bytesOf(v js.Value) []byte {
	raw := make([]byte, v.Get("length").Int())
	js.CopyBytesToGo(raw, v)
	return raw
}

func bytesFor(raw []byte) js.Value {
	v := js.Global().Get("Uint8Array").New(len(raw))
	js.CopyBytesToJS(v, raw)
	return v
}
