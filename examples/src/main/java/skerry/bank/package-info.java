/** A stand-in for the bank: takes or refuses cards. Entry point: {@link skerry.bank.Bank}. */
package skerry.bank;
