/**
 * Farm Accounts, a small simulated business application: it books the vouchers that are sent to it over HTTP, describes
 * itself by an OpenAPI document, honours idempotency keys, and can be told to be slow, to refuse or to fail. Enter at
 * {@link ninepin.standins.accounts.FarmAccounts}; {@link ninepin.standins.accounts.Ledger} owns what is booked.
 */
package ninepin.standins.accounts;
