package main

import (
	"bytes"
	"encoding/json"
	"fmt"

	"github.com/spf13/cobra"

	"evensteps/server"
	"evensteps/store"
)

// openapiCommand prints the API's document, from which the web client is made.
func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use:    "openapi",
		Short:  "The API's OpenAPI document",
		Args:   cobra.NoArgs,
		Hidden: true,
		RunE: func(cmd *cobra.Command, _ []string) error {
			doc, err := server.New(server.Options{Store: &store.Store{}}).OpenAPI()
			if err != nil {
				return err
			}
			var out bytes.Buffer
			if err := json.Indent(&out, doc, "", "  "); err != nil {
				return fmt.Errorf("writing the OpenAPI document: %w", err)
			}
			fmt.Fprintln(cmd.OutOrStdout(), out.String())
			return nil
		},
	}
}
