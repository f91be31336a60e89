/** A simulated bank: accepts or rejects cards. Entry point: {@link skerry.bank.Bank}. */
package skerry.bank;
