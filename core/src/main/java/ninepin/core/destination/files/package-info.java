/** Files of one folder and name. */
package ninepin.core.destination.files;
