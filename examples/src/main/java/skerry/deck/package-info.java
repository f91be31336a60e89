/** The service that reserves lanes on the vehicle deck, with locks. Entry point: {@link skerry.deck.DeckService}. */
package skerry.deck;
