/** What all endpoints share: problems after RFC 9457. */
package ninepin.server.api;
