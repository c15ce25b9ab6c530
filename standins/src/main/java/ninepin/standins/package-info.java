/** Small simulated outside systems that ship with Ninepin: partners with their files, and a business application. */
package ninepin.standins;
