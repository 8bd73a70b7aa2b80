package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"os"
	"path/filepath"

	"hevrin/api"
	"hevrin/app/exchange"
	"hevrin/app/record"
	"hevrin/reports"
)

// exchangeHandlers answer with files that leave the program, and take in those that come.
type exchangeHandlers struct {
	bundles *exchange.Bundles
	place   record.Place
	version string
}

func (h *exchangeHandlers) GetBundle(ctx context.Context,
	r api.GetBundleRequestObject) (api.GetBundleResponseObject, error) {
	b, err := h.bundles.Bundle(ctx, r.JobId)
	if err != nil {
		return nil, err
	}
	raw, err := reports.WriteBundle(b, h.version, h.bundles.Catalogue.Version, h.bundles.Now())
	if err != nil {
		return nil, err
	}
	return api.GetBundle200ApplicationoctetStreamResponse{Body: bytes.NewReader(raw), ContentLength: int64(len(raw)),
		Headers: api.GetBundle200ResponseHeaders{ContentDisposition: named(reports.BundleName(b))}}, nil
}

func (h *exchangeHandlers) ImportBundle(ctx context.Context,
	r api.ImportBundleRequestObject) (api.ImportBundleResponseObject, error) {
	b, err := reports.ReadBundle(r.Body.Data)
	if err != nil {
		return nil, err
	}
	t, err := h.bundles.ImportBundle(ctx, b, api.Value(r.Body.Try))
	if err != nil {
		return nil, err
	}
	return api.ImportBundle200JSONResponse{Craft: t.Craft.Name, Engine: t.Engine.Name, JobId: b.JobID, Words: t.Job.Words,
		Opened:   &t.Job.OpenedAt,
		NewCraft: t.NewCraft, NewEngine: t.NewEngine, NewJob: t.NewJob, Photos: t.Photos, Recordings: t.Recordings,
		Kept: api.List(t.Stored)}, nil
}

func (h *exchangeHandlers) GetBundleSchema(context.Context,
	api.GetBundleSchemaRequestObject) (api.GetBundleSchemaResponseObject, error) {
	var schema api.GetBundleSchema200ApplicationSchemaPlusJSONResponse
	err := json.Unmarshal(reports.BundleSchema, &schema)
	return schema, err
}

// GetBackup writes the backup beside the system's other passing files and sends it from there.
func (h *exchangeHandlers) GetBackup(ctx context.Context,
	_ api.GetBackupRequestObject) (api.GetBackupResponseObject, error) {
	folder, err := os.MkdirTemp("", "hevrin-backup")
	if err != nil {
		return nil, err
	}
	file := filepath.Join(folder, "backup.db")
	name, err := h.place.SendAway(ctx, file)
	if err != nil {
		return nil, errors.Join(err, os.RemoveAll(folder))
	}
	f, err := os.Open(file) //nolint:gosec // made here
	if err != nil {
		return nil, errors.Join(err, os.RemoveAll(folder))
	}
	facts, err := f.Stat()
	if err != nil {
		return nil, errors.Join(err, f.Close(), os.RemoveAll(folder))
	}
	return api.GetBackup200ApplicationoctetStreamResponse{Body: &passing{f, folder}, ContentLength: facts.Size(),
		Headers: api.GetBackup200ResponseHeaders{ContentDisposition: named(name)}}, nil
}

// passing is a file that goes, with its folder, once it was sent.
type passing struct {
	*os.File
	folder string
}

var _ io.ReadCloser = (*passing)(nil)

func (p *passing) Close() error { return errors.Join(p.File.Close(), os.RemoveAll(p.folder)) }
