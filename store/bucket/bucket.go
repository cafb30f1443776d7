// Package bucket keeps photos in any store that speaks S3, where a company does not want
// them in its database.
package bucket

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"net/url"
	"strings"
	"time"

	"github.com/minio/minio-go/v7"
	"github.com/minio/minio-go/v7/pkg/credentials"
)

// Bucket is one bucket of an S3 store.
type Bucket struct {
	client *minio.Client
	name   string
	prefix string
}

// patience is how long one object may take.
const patience = time.Minute

// Open reaches a bucket by its address, as https://host/bucket or http://host:9000/bucket/prefix,
// and makes sure that it is there. Key and secret are the store's; region may be empty.
func Open(ctx context.Context, address, key, secret, region string) (*Bucket, error) {
	at, err := url.Parse(address)
	if err != nil || at.Host == "" || at.Scheme != "https" && at.Scheme != "http" || at.User != nil {
		return nil, fmt.Errorf("the address of the bucket is %q: write it as https://host/bucket", address)
	}
	name, prefix, _ := strings.Cut(strings.Trim(at.Path, "/"), "/")
	if name == "" {
		return nil, fmt.Errorf("the address of the bucket %q names no bucket: write it as https://host/bucket", address)
	}
	client, err := minio.New(at.Host, &minio.Options{Creds: credentials.NewStaticV4(key, secret, ""), Secure: at.Scheme == "https", Region: region, BucketLookup: minio.BucketLookupPath})
	if err != nil {
		return nil, fmt.Errorf("reaching the bucket: %w", err)
	}
	b := &Bucket{client, name, prefix}
	return b, b.Ready(ctx)
}

func (b *Bucket) path(name string) string { return strings.TrimPrefix(b.prefix+"/"+name, "/") }

// Put keeps bytes under a name. The same name again keeps the same.
func (b *Bucket) Put(ctx context.Context, name, kind string, data []byte) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	if _, err := b.client.PutObject(ctx, b.name, b.path(name), bytes.NewReader(data), int64(len(data)), minio.PutObjectOptions{ContentType: kind}); err != nil {
		return fmt.Errorf("keeping it in the bucket: %w", err)
	}
	return nil
}

// Get gives what lies under a name.
func (b *Bucket) Get(ctx context.Context, name string) ([]byte, error) {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	object, err := b.client.GetObject(ctx, b.name, b.path(name), minio.GetObjectOptions{})
	if err != nil {
		return nil, fmt.Errorf("asking the bucket: %w", err)
	}
	defer object.Close()
	data, err := io.ReadAll(object)
	if err != nil {
		return nil, fmt.Errorf("reading it from the bucket: %w", err)
	}
	return data, nil
}

// errNone says that the store answers, and has no such bucket.
var errNone = errors.New("there is no such bucket: make it, and let the key write to it")

// Ready tells whether the bucket is there.
func (b *Bucket) Ready(ctx context.Context) error {
	is, err := b.client.BucketExists(ctx, b.name)
	if err != nil {
		return fmt.Errorf("asking for the bucket %q: %w", b.name, err)
	}
	if !is {
		return fmt.Errorf("the bucket %q: %w", b.name, errNone)
	}
	return nil
}
