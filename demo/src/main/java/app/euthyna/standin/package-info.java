/** Stand-ins for what an order-to-cash company is connected to: carriers, the payment service, the licence register. */
package app.euthyna.standin;
