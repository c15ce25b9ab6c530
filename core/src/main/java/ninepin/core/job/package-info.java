/**
 * The definition of a job: what it takes, its checks, how it shapes records and where it delivers them, and the JSON that it is
 * kept in.
 */
package ninepin.core.job;
