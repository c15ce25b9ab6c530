/** The demo's world: Larkfell Dairy Co-operative, its laboratory, and three weeks of runs made by really running. */
package ninepin.server.demo;
