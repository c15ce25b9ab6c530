/** Records of a fixed length, as lines or blocks, in text and in the binary forms of numbers: reading, writing, rejects. */
package ninepin.core.format.fixedlength;
