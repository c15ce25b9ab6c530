/** Small simulated outside systems that ship with Ninepin: now the milk laboratory and its files. */
package ninepin.standins;
