/** Tables of tokens that were brought, by which BASIC is listed as text. */
package lanternshed.server.tokens;
