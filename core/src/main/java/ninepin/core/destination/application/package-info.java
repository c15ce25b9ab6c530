/** One operation of an application over HTTP. */
package ninepin.core.destination.application;
