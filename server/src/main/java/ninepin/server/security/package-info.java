/** Who may come in: accounts, sessions, and the sealing of secrets. */
package ninepin.server.security;
