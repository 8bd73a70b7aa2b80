package server

// TakesBy says of a body whether who noted it is made sure of.
var TakesBy = takesBy

// OperationName is an operation's id as the contract writes it.
var OperationName = operationName
